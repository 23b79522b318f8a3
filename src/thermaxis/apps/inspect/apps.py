from django.apps import AppConfig


class InspectConfig(AppConfig):
    name = "thermaxis.apps.inspect"
    label = "inspect"

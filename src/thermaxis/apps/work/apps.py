from django.apps import AppConfig


class WorkConfig(AppConfig):
    name = "thermaxis.apps.work"
    label = "work"

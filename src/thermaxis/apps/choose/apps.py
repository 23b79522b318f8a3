from django.apps import AppConfig


class ChooseConfig(AppConfig):
    name = "thermaxis.apps.choose"
    label = "choose"

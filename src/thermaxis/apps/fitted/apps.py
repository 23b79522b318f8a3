from django.apps import AppConfig


class FittedConfig(AppConfig):
    name = "thermaxis.apps.fitted"
    label = "fitted"

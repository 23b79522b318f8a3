from django.apps import AppConfig


class SolvingConfig(AppConfig):
    name = "thermaxis.apps.solving"
    label = "solving"

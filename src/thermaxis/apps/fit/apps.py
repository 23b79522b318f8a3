from django.apps import AppConfig


class FitConfig(AppConfig):
    name = "thermaxis.apps.fit"
    label = "fit"

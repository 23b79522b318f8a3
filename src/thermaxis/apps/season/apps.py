from django.apps import AppConfig


class SeasonConfig(AppConfig):
    name = "thermaxis.apps.season"
    label = "season"

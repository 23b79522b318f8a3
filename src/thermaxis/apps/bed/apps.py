from django.apps import AppConfig


class BedConfig(AppConfig):
    name = "thermaxis.apps.bed"
    label = "bed"

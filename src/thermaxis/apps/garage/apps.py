from django.apps import AppConfig


class GarageConfig(AppConfig):
    name = "thermaxis.apps.garage"
    label = "garage"

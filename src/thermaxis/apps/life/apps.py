from django.apps import AppConfig


class LifeConfig(AppConfig):
    name = "thermaxis.apps.life"
    label = "life"

from django.apps import AppConfig


class LogConfig(AppConfig):
    name = "thermaxis.apps.log"
    label = "log"

from django.apps import AppConfig


class LogbookConfig(AppConfig):
    name = "thermaxis.apps.logbook"
    label = "logbook"

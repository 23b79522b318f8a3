from django.apps import AppConfig


class WorkshopConfig(AppConfig):
    name = "thermaxis.apps.workshop"
    label = "workshop"

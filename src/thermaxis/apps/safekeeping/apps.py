from django.apps import AppConfig


class SafekeepingConfig(AppConfig):
    name = "thermaxis.apps.safekeeping"
    label = "safekeeping"

from django.apps import AppConfig


class DutyConfig(AppConfig):
    name = "thermaxis.apps.duty"
    label = "duty"

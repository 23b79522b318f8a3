from django.apps import AppConfig


class JobConfig(AppConfig):
    name = "thermaxis.apps.job"
    label = "job"

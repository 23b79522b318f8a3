from django.apps import AppConfig


class PeopleConfig(AppConfig):
    name = "thermaxis.apps.people"
    label = "people"

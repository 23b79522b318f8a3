from django.apps import AppConfig


class CatalogueConfig(AppConfig):
    name = "thermaxis.apps.catalogue"
    label = "catalogue"

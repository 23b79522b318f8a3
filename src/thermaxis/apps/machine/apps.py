from django.apps import AppConfig


class MachineConfig(AppConfig):
    name = "thermaxis.apps.machine"
    label = "machine"

from thermaxis.apps.log.loading import WithActions


class MachineConfig(WithActions):
    name = "thermaxis.apps.machine"
    label = "machine"

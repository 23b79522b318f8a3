from thermaxis.apps.log.loading import WithActions


class InspectConfig(WithActions):
    name = "thermaxis.apps.inspect"
    label = "inspect"

from thermaxis.apps.log.loading import WithActions


class GarageConfig(WithActions):
    name = "thermaxis.apps.garage"
    label = "garage"

from thermaxis.apps.log.loading import WithActions


class BedConfig(WithActions):
    name = "thermaxis.apps.bed"
    label = "bed"

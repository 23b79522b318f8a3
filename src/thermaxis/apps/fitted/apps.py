from thermaxis.apps.log.loading import WithActions


class FittedConfig(WithActions):
    name = "thermaxis.apps.fitted"
    label = "fitted"

from thermaxis.apps.log.loading import WithActions


class FitConfig(WithActions):
    name = "thermaxis.apps.fit"
    label = "fit"

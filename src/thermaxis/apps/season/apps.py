from thermaxis.apps.log.loading import WithActions


class SeasonConfig(WithActions):
    name = "thermaxis.apps.season"
    label = "season"

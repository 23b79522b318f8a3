from thermaxis.apps.log.loading import WithActions


class LogbookConfig(WithActions):
    name = "thermaxis.apps.logbook"
    label = "logbook"

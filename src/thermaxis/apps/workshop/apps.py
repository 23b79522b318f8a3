from thermaxis.apps.log.loading import WithActions


class WorkshopConfig(WithActions):
    name = "thermaxis.apps.workshop"
    label = "workshop"

from thermaxis.apps.log.loading import WithActions


class DutyConfig(WithActions):
    name = "thermaxis.apps.duty"
    label = "duty"

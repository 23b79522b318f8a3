from thermaxis.apps.log.loading import WithActions


class ChooseConfig(WithActions):
    name = "thermaxis.apps.choose"
    label = "choose"

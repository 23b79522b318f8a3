from thermaxis.apps.log.loading import WithActions


class PeopleConfig(WithActions):
    name = "thermaxis.apps.people"
    label = "people"

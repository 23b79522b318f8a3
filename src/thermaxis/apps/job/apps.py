from thermaxis.apps.log.loading import WithActions


class JobConfig(WithActions):
    name = "thermaxis.apps.job"
    label = "job"

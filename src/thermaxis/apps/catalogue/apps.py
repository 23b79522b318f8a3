from thermaxis.apps.log.loading import WithActions


class CatalogueConfig(WithActions):
    name = "thermaxis.apps.catalogue"
    label = "catalogue"

from django.apps import AppConfig


class CatalogueConfig(AppConfig):
    name = "apps.catalogue"

from django.apps import AppConfig


class RoadsConfig(AppConfig):
    name = "apps.roads"

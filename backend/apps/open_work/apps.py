from django.apps import AppConfig


class OpenWorkConfig(AppConfig):
    name = "apps.open_work"

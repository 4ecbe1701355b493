from django.apps import AppConfig


class SetUpConfig(AppConfig):
    name = "apps.set_up"

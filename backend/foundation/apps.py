from django.apps import AppConfig


class FoundationConfig(AppConfig):
    name = "foundation"

from django.apps import AppConfig


class FieldConfig(AppConfig):
    name = "apps.field"

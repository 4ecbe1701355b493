from django.apps import AppConfig


class IntakeConfig(AppConfig):
    name = "apps.intake"

    def ready(self) -> None:
        from apps.intake.models import Request
        from foundation import files

        files.belong_to("request", lambda key: Request.objects.filter(pk=key).exists())

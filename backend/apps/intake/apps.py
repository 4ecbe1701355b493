from django.apps import AppConfig


class IntakeConfig(AppConfig):
    name = "apps.intake"

    def ready(self) -> None:
        from apps.customers.models import Customer
        from apps.intake.models import Request
        from foundation import files, merging

        files.belong_to("request", lambda key: Request.objects.filter(pk=key).exists())
        merging.move_along(Customer, Request, "customer")

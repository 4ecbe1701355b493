from django.apps import AppConfig


class IntakeConfig(AppConfig):
    name = "apps.intake"

    def ready(self) -> None:
        from apps.customers.models import Customer
        from apps.intake.models import Request
        from apps.people.models import Skill
        from foundation import files, merging
        from foundation.named import in_amounts, used

        files.belong_to("request", lambda key: Request.objects.filter(pk=key).exists())
        used(Skill, in_amounts("requests", Request, "needs", both="greatest"))
        merging.move_along(Customer, Request, "customer")

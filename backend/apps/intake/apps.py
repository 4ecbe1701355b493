from django.apps import AppConfig


class IntakeConfig(AppConfig):
    name = "apps.intake"

    def ready(self) -> None:
        from apps.catalogue.models import JobType
        from apps.company.models import Tag
        from apps.customers.models import Customer
        from apps.intake.models import Request
        from apps.people.models import Skill
        from foundation import files, merging
        from foundation.named import in_json_list, in_levels, used

        files.belong_to("request", lambda key: Request.objects.filter(pk=key).exists())
        used(Tag, in_json_list("requests", Request, "details", "tags"))
        used(Skill, in_levels("requests", Request, "needs"))
        merging.move_along(Customer, Request, "customer")
        merging.move_along(JobType, Request, "job_type")

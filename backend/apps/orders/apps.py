from django.apps import AppConfig


class OrdersConfig(AppConfig):
    name = "apps.orders"

    def ready(self) -> None:
        from apps.catalogue.models import JobType
        from apps.company import answers
        from apps.company.commands import hold_zone
        from apps.company.models import Tag
        from apps.customers.models import Customer
        from apps.orders.models import LearnedLength, Visit, WorkOrder
        from apps.orders.naming import FIELD_VIEWS, views_by
        from apps.people.models import Skill
        from apps.stock.models import Part
        from foundation import files, merging
        from foundation.named import in_amounts, in_levels, in_list, used

        files.belong_to("order", lambda key: WorkOrder.objects.filter(pk=key).exists())
        used(Tag, in_list("orders", WorkOrder, "tags"), views_by("tags", "tag"))
        used(Skill, in_levels("visits", Visit, "needs"), views_by("skill"))
        used(Part, in_amounts("visits", Visit, "takes"))
        merging.move_along(Customer, WorkOrder, "customer", "payer")
        merging.move_along(JobType, WorkOrder, "job_type")
        merging.stay(LearnedLength, "job_type", because="it is learned anew every night")
        answers.hold("order", answers.in_column("orders", WorkOrder), FIELD_VIEWS)
        hold_zone(lambda: "There are visits already." if Visit.objects.exists() else "")

from django.apps import AppConfig


class OrdersConfig(AppConfig):
    name = "apps.orders"

    def ready(self) -> None:
        from apps.company.commands import hold_zone
        from apps.company.models import Tag
        from apps.customers.models import Customer
        from apps.orders.models import Visit, WorkOrder
        from apps.orders.naming import views_by
        from apps.people.models import Skill
        from foundation import files, merging
        from foundation.named import in_levels, in_list, used

        files.belong_to("order", lambda key: WorkOrder.objects.filter(pk=key).exists())
        used(Tag, in_list("orders", WorkOrder, "tags"), views_by("tags", "tag"))
        used(Skill, in_levels("visits", Visit, "needs"), views_by("skill"))
        merging.move_along(Customer, WorkOrder, "customer", "payer")
        hold_zone(lambda: "There are visits already." if Visit.objects.exists() else "")

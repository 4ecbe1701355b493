from django.apps import AppConfig


class OrdersConfig(AppConfig):
    name = "apps.orders"

    def ready(self) -> None:
        from apps.customers.models import Customer
        from apps.orders.models import WorkOrder
        from foundation import files, merging

        files.belong_to("order", lambda key: WorkOrder.objects.filter(pk=key).exists())
        merging.move_along(Customer, WorkOrder, "customer", "payer")

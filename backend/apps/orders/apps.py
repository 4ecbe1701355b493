from django.apps import AppConfig


class OrdersConfig(AppConfig):
    name = "apps.orders"

    def ready(self) -> None:
        from apps.orders.models import WorkOrder
        from foundation import files

        files.belong_to("order", lambda key: WorkOrder.objects.filter(pk=key).exists())

from django.apps import AppConfig


class SupplyConfig(AppConfig):
    name = "apps.supply"

    def ready(self) -> None:
        from apps.orders.events import VisitStepped
        from apps.supply import commands
        from apps.supply.events import LinesDropped, PurchaseReceived
        from foundation import events

        events.listen(VisitStepped, commands.follow_errand)
        events.listen(PurchaseReceived, commands.on_received)
        events.listen(LinesDropped, commands.on_dropped)

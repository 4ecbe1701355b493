from django.apps import AppConfig


class ReportsConfig(AppConfig):
    name = "apps.reports"

    def ready(self) -> None:
        from apps.customers.models import Asset
        from apps.orders.events import VisitStepped
        from apps.orders.models import Visit
        from apps.reports import commands
        from apps.reports.models import FormAnswer
        from foundation import events, files, merging

        files.belong_to("visit", lambda key: Visit.objects.filter(pk=key).exists())
        merging.move_along(Asset, FormAnswer, "asset")
        events.listen(VisitStepped, commands.on_stepped)

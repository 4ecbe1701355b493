from django.apps import AppConfig


class StockConfig(AppConfig):
    name = "apps.stock"

    def ready(self) -> None:
        from apps.stock import commands
        from foundation import undo

        undo.register("van", by_values=commands.put_count_back)

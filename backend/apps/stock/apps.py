from django.apps import AppConfig


class StockConfig(AppConfig):
    name = "apps.stock"

    def ready(self) -> None:
        from apps.stock import commands
        from apps.stock.models import Part
        from foundation import files, undo

        undo.register("stock", by_values=commands.put_count_back)
        files.belong_to("part", lambda key: Part.objects.filter(pk=key, merged_into="").exists())

from django.apps import AppConfig


class DaylogsConfig(AppConfig):
    name = "apps.daylogs"

    def ready(self) -> None:
        from apps.company import answers
        from apps.daylogs.models import DayLog
        from apps.people.models import Vehicle
        from foundation import files, merging

        files.belong_to("day log", lambda key: DayLog.objects.filter(pk=key).exists())
        merging.move_along(Vehicle, DayLog, "vehicle")
        answers.hold("vehicle", answers.in_column("day logs", DayLog, "checks"))

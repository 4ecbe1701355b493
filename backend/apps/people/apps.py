from django.apps import AppConfig


class PeopleConfig(AppConfig):
    name = "apps.people"

    def ready(self) -> None:
        from apps.people import commands
        from foundation import undo

        undo.register("absence", by_values=commands.put_absence_back)
        undo.register("crew", by_values=commands.put_crew_back)

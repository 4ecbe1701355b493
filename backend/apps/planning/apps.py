from django.apps import AppConfig


class PlanningConfig(AppConfig):
    name = "apps.planning"

    def ready(self) -> None:
        from apps.planning.commands.restoring import keep_deed
        from foundation import events
        from foundation.deeds import Deed

        events.listen(Deed, keep_deed)

from django.apps import AppConfig


class PlanningConfig(AppConfig):
    name = "apps.planning"

    def ready(self) -> None:
        from apps.planning.commands.restoring import keep_undoable
        from foundation import events
        from foundation.undo import Undoable

        events.listen(Undoable, keep_undoable)

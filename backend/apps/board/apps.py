from django.apps import AppConfig


class BoardConfig(AppConfig):
    name = "apps.board"

    def ready(self) -> None:
        from apps.board.commands import reminders
        from foundation import undo

        undo.register("reminder", by_values=reminders.put_reminder_back)

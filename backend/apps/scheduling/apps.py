from django.apps import AppConfig


class SchedulingConfig(AppConfig):
    name = "apps.scheduling"

    def ready(self) -> None:
        from apps.scheduling import undoing
        from foundation import undo

        undo.register(undoing.SUBJECT, by_version=undoing.put_back, lock=undoing.lock)

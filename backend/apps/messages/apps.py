from django.apps import AppConfig


class MessagesConfig(AppConfig):
    name = "apps.messages"

    def ready(self) -> None:
        from apps.messages import listeners

        listeners.connect()

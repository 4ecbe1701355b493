"""Reading the outbox."""

from apps.messages.models import Call, Message
from foundation.pages import Page, newest_first


def outbox(*, visit_id: int | None = None, state: str | None = None, cursor: str = "") -> Page[Message]:
    """The newest messages first; of one visit or in one state only, if named."""
    rows = Message.objects.select_related("visit__order", "request")
    rows = rows.filter(state=state) if state else rows
    return newest_first(rows.filter(visit_id=visit_id) if visit_id else rows, cursor)


def message(message_id: int) -> Message:
    return Message.objects.select_related("visit__order", "request").get(pk=message_id)


def open_calls(*, limit: int = 200) -> list[Call]:
    """Those who are still to be called, who waits longest first."""
    rows = Call.objects.select_related("visit__order").filter(done_at__isnull=True)
    return list(rows.order_by("made_at", "id")[:limit])


def failed_count() -> int:
    return Message.objects.filter(state="failed").count()

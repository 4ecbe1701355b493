"""Reading the outbox."""

from apps.messages.models import Message


def outbox(*, visit_id: int | None = None, limit: int = 200) -> list[Message]:
    """The newest messages first; of one visit only, if named."""
    rows = Message.objects.select_related("visit__order", "request").order_by("-written_at", "-id")
    return list((rows.filter(visit_id=visit_id) if visit_id else rows)[:limit])

"""The audit trail on the wire."""

from typing import Any, Self

from ninja import Schema

from foundation.models import AuditEntry
from foundation.pages import Page


class EntryOut(Schema):
    """One thing that happened: who, when, what; from what to what by field, where fields changed."""

    id: int
    at: int
    by: str
    record: str
    record_id: int
    action: str
    sentence: str
    note: str
    values: dict[str, list[Any]]

    @classmethod
    def of(cls, entry: AuditEntry) -> Self:
        return cls(
            id=entry.pk, at=int(entry.at.timestamp()), by=entry.actor_name, record=entry.entity,
            record_id=entry.entity_id, action=entry.action, sentence=entry.sentence or entry.action,
            note=str(entry.changes.get("note", "")), values=entry.changes.get("values", {}),
        )  # fmt: skip


class EntriesOut(Schema):
    """What happened, the newest first. `next` is the cursor of the following page; null when there is none."""

    rows: list[EntryOut]
    next: str | None

    @classmethod
    def of(cls, page: Page[AuditEntry]) -> Self:
        return cls(rows=[EntryOut.of(entry) for entry in page.rows], next=page.next)

"""Writing and reading the audit trail."""

from collections.abc import Collection, Mapping
from datetime import datetime
from typing import Any

from django.db.models import F, Q

from foundation.actors import Actor
from foundation.errors import Rejected
from foundation.models import AuditEntry
from foundation.pages import Page, newest_first


def record(
    *, actor: Actor, now: datetime, action: str, entity: str, entity_id: int, version: int = 0,
    sentence: str = "", **changes: Any,
) -> None:  # fmt: skip
    """Note what was done, in the transaction that does it."""
    AuditEntry.objects.create(
        at=now, actor_id=actor.id, actor_name=actor.name, action=action, entity=entity, entity_id=entity_id,
        version=version, sentence=sentence[:300], changes=changes,
    )  # fmt: skip


def record_each(
    *, actor: Actor, now: datetime, action: str, entity: str, ids: Collection[int], sentence: str, version: int = 1
) -> None:
    """Note the same of many records."""
    AuditEntry.objects.bulk_create(
        [
            AuditEntry(
                at=now, actor_id=actor.id, actor_name=actor.name, action=action, entity=entity, entity_id=key,
                version=version, sentence=sentence[:300], changes={},
            )
            for key in ids
        ],
        batch_size=1000,
    )  # fmt: skip


# Transactions commit in another order than they are numbered; one that takes longer than this many entries does not.
LATE = 1000


def mark() -> tuple[int, int]:
    """Changes with every write that is committed, also with one whose entry has a lower number than the last.

    Every write leaves an entry, so whoever keeps something made from the tables compares marks.
    """
    last = AuditEntry.objects.order_by("-id").values_list("id", flat=True).first() or 0
    return last, AuditEntry.objects.filter(id__gt=last - LATE).count()


def changed_since(seen: tuple[int, int]) -> set[tuple[str, int]] | None:
    """Which records were written to since a mark, as entity and id; None when that cannot be told: a write that began
    before the mark was committed after it."""
    last, count = seen
    if AuditEntry.objects.filter(id__gt=last - LATE, id__lte=last).count() > count:
        return None
    return set(AuditEntry.objects.filter(id__gt=last).values_list("entity", "entity_id"))


def since(entity: str, entity_id: int, version: int) -> list[AuditEntry]:
    """What happened to a record after the version somebody saw, newest first."""
    return list(AuditEntry.objects.filter(entity=entity, entity_id=entity_id, version__gt=version).order_by("-id"))


def latest(entity: str, entity_id: int, *, limit: int = 30) -> list[AuditEntry]:
    return list(AuditEntry.objects.filter(entity=entity, entity_id=entity_id).order_by("-id")[:limit])


def last(entity: str, entity_id: int, *, action: str) -> AuditEntry | None:
    """The last time that something was done to a record."""
    return AuditEntry.objects.filter(entity=entity, entity_id=entity_id, action=action).order_by("-id").first()


def note(*, actor: Actor, now: datetime, entity: str, entity_id: int, text: str) -> None:
    """A note on a record: part of its history, so it never moves and never vanishes."""
    if not text.strip():
        raise Rejected("Write something first.", field="text")
    record(actor=actor, now=now, action="note", entity=entity, entity_id=entity_id, sentence="noted", note=text.strip())


def of(records: Mapping[str, Collection[int]], cursor: str) -> Page[AuditEntry]:
    """What happened to several records that belong together, by entity, the newest first, in pages."""
    query = Q()
    for entity, ids in records.items():
        query |= Q(entity=entity, entity_id__in=list(ids))
    # Found by their records: a plain number would lead backwards through everything that ever happened.
    return newest_first(AuditEntry.objects.filter(query), cursor, order=(F("id") + 0).desc())

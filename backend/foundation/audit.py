"""Writing and reading the audit trail."""

from datetime import datetime
from typing import Any

from foundation.actors import Actor
from foundation.models import AuditEntry


def record(
    *, actor: Actor, now: datetime, action: str, entity: str, entity_id: int, version: int = 0,
    sentence: str = "", **changes: Any,
) -> None:  # fmt: skip
    """Note what was done, in the transaction that does it."""
    AuditEntry.objects.create(
        at=now, actor_id=actor.id, actor_name=actor.name, action=action, entity=entity, entity_id=entity_id,
        version=version, sentence=sentence[:300], changes=changes,
    )  # fmt: skip


def since(entity: str, entity_id: int, version: int) -> list[AuditEntry]:
    """What happened to a record after the version somebody saw, newest first."""
    return list(AuditEntry.objects.filter(entity=entity, entity_id=entity_id, version__gt=version).order_by("-id"))


def latest(entity: str, entity_id: int, *, limit: int = 30) -> list[AuditEntry]:
    return list(AuditEntry.objects.filter(entity=entity, entity_id=entity_id).order_by("-id")[:limit])

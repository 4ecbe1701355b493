"""Making and changing playbooks."""

from datetime import datetime
from typing import Any

from django.db import transaction

from apps.scheduling.models import PlaybookRow
from apps.scheduling.playbooks import playbook_from
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected


@transaction.atomic
def make_playbook(
    *, actor: Actor, now: datetime, name: str, limits: dict[str, Any], aims: dict[str, float]
) -> PlaybookRow:
    """A new playbook."""
    require(actor, Action.EDIT_PLAYBOOKS)
    _check(name, limits, aims)
    row = PlaybookRow.objects.create(name=name.strip(), limits=limits, aims=aims)
    _note(actor, now, row, f"made the playbook “{row.name}”")
    return row


@transaction.atomic
def save_playbook(
    *, actor: Actor, now: datetime, playbook_id: int, version: int, name: str, limits: dict[str, Any],
    aims: dict[str, float],
) -> PlaybookRow:  # fmt: skip
    """Change a playbook. Runs that have been started keep the one they were started with."""
    require(actor, Action.EDIT_PLAYBOOKS)
    row = _locked(playbook_id, version)
    _check(name, limits, aims, but=playbook_id)
    row.name, row.limits, row.aims = name.strip(), limits, aims
    row.version += 1
    row.save()
    _note(actor, now, row, f"changed the playbook “{row.name}”")
    return row


@transaction.atomic
def make_default(*, actor: Actor, now: datetime, playbook_id: int, version: int) -> PlaybookRow:
    """The playbook that is used when none is named."""
    require(actor, Action.EDIT_PLAYBOOKS)
    row = _locked(playbook_id, version)
    PlaybookRow.objects.filter(is_default=True).update(is_default=False)
    row.is_default = True
    row.version += 1
    row.save()
    _note(actor, now, row, f"made “{row.name}” the default playbook")
    return row


def _locked(playbook_id: int, version: int) -> PlaybookRow:
    row = PlaybookRow.objects.select_for_update().filter(pk=playbook_id).first()
    if row is None:
        raise NotFound("There is no such playbook.", code="no_playbook")
    if row.version != version:
        newest = audit.since("playbook", row.pk, version)
        who = f"{newest[0].actor_name} was faster: {newest[0].sentence}." if newest else "It was changed meanwhile."
        raise Conflict(f"{who} Shown as it is now.", current_version=row.version)
    return row


def _check(name: str, limits: dict[str, Any], aims: dict[str, float], *, but: int | None = None) -> None:
    if not name.strip():
        raise Rejected("Give the playbook a name.", field="name")
    others = PlaybookRow.objects.filter(name__iexact=name.strip())
    if (others.exclude(pk=but) if but is not None else others).exists():
        raise Rejected("Another playbook has that name.", field="name")
    playbook_from(name, limits, aims)


def _note(actor: Actor, now: datetime, row: PlaybookRow, sentence: str) -> None:
    audit.record(
        actor=actor, now=now, action="playbook", entity="playbook", entity_id=row.pk, version=row.version,
        sentence=sentence,
    )  # fmt: skip
    live.announce("playbook", ids=[row.pk])

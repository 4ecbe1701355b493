"""Playbooks between the table and the core."""

from typing import Any

from apps.scheduling.models import PlaybookRow
from core.scheduling import KEEP_PROMISES, READY_MADE, Aim, Limit, Playbook, Setting
from foundation.errors import NotFound, Rejected


def playbook_of(row: PlaybookRow) -> Playbook:
    return playbook_from(row.name, row.limits, row.aims)


def playbook_from(name: str, limits: dict[str, Any], aims: dict[str, float]) -> Playbook:
    """A core playbook from what is stored or sent.

    Raises
    ------
    Rejected
        When something in it cannot be; with the core's sentence.
    """
    try:
        return Playbook(
            name=name,
            limits={
                Limit(key): Setting(on=bool(value.get("on", True)), number=value.get("number"))
                for key, value in limits.items()
            },
            aims={Aim(key): float(weight) for key, weight in aims.items()},
        )
    except ValueError as error:
        sentence = str(error)
        raise Rejected(f"{sentence[0].upper()}{sentence[1:]}.", field="playbook") from error


def stored(playbook: Playbook) -> dict[str, Any]:
    """A playbook's limits and aims as they are stored."""
    return {
        "limits": {limit: {"on": s.on, "number": s.number} for limit, s in playbook.limits.items()},
        "aims": {aim: weight for aim, weight in playbook.aims.items() if weight},
    }


def ensure_playbooks() -> list[PlaybookRow]:
    """All playbooks, the default first; the ready-made ones are kept when there are none. To be called where something
    is written."""
    if found := _kept():
        return found
    PlaybookRow.objects.bulk_create(_ready_made(), ignore_conflicts=True)
    return _kept()


def _kept() -> list[PlaybookRow]:
    return list(PlaybookRow.objects.order_by("-is_default", "id"))


def _ready_made() -> list[PlaybookRow]:
    rows = [
        PlaybookRow(name=playbook.name, is_default=playbook is KEEP_PROMISES, **stored(playbook))
        for playbook in READY_MADE
    ]
    return sorted(rows, key=lambda row: not row.is_default)


def playbook_row(playbook_id: int | None) -> PlaybookRow:
    """A playbook by its id, or the default. Reads only: a company that has kept none goes by the ready-made ones."""
    rows = _kept() or _ready_made()
    if playbook_id is None:
        return rows[0]
    found = next((row for row in rows if row.pk == playbook_id), None)
    if found is None:
        raise NotFound("There is no such playbook.", code="no_playbook")
    return found

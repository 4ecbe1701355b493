"""The current world, kept warm: openings are answered from it."""

import threading
from dataclasses import dataclass
from datetime import date
from typing import Any

from apps.scheduling.playbooks import playbook_of, playbook_row
from apps.scheduling.problems import Loaded, load_problem
from core.scheduling import AIMS
from core.scheduling.engine import Opening, OpeningFinder, Openings
from core.scheduling.judgement.explaining import in_short
from foundation import audit, clock
from foundation.errors import NotFound

# Openings of today drift with the clock; a minute is the grain of every screen.
KEPT_SECONDS = 60


@dataclass(frozen=True, kw_only=True)
class _World:
    key: tuple[Any, ...]
    loaded: Loaded
    finder: OpeningFinder
    made_at: float


_lock = threading.Lock()
_worlds: dict[tuple[Any, ...], _World] = {}


def openings(*, visit_id: int, first: date, days: int, playbook_id: int | None) -> dict[str, Any]:
    """Openings of a visit as JSON."""
    with _lock:  # a finder is one mutable thing
        world = _world(first, days, playbook_id)
        if visit_id not in world.loaded.problem.visits:
            raise NotFound("This visit is neither open nor on these days.", code="no_visit")
        found = world.finder.openings(visit_id)
    return _as_json(world.loaded, found)


def _world(first: date, days: int, playbook_id: int | None) -> _World:
    """The world as it is now: kept as long as nothing was written."""
    row = playbook_row(playbook_id)
    mark = audit.mark()
    moment = clock.now().timestamp()
    scope = (first, days, row.pk)
    known = _worlds.get(scope)
    if known and known.key == (mark, row.version) and 0 <= moment - known.made_at < KEPT_SECONDS:
        return known
    loaded = load_problem(first=first, days=days, playbook=playbook_of(row), now=clock.now())
    world = _World(key=(mark, row.version), loaded=loaded, finder=OpeningFinder(loaded.problem), made_at=moment)
    if len(_worlds) > 4:
        _worlds.clear()
    _worlds[scope] = world
    return world


def _as_json(loaded: Loaded, found: Openings) -> dict[str, Any]:
    names = {day.technician.id: day.technician.name for day in loaded.problem.days}
    return {
        "considered": found.considered,
        "possible": found.possible,
        "openings": [_opening(loaded, opening, names) for opening in found.openings],
        "in_short": list(in_short(row.why for row in found.excluded)),
        "excluded": [
            {
                "technician_id": row.technician_id,
                "technician": names[row.technician_id],
                "reasons": list(row.why.reasons),
            }
            for row in found.excluded
        ],
    }


def _opening(loaded: Loaded, opening: Opening, names: dict[int, str]) -> dict[str, Any]:
    return {
        "start": opening.start,
        "end": opening.end,
        "minutes": round(opening.total / 60, 1),
        "seats": [
            {
                "technician_id": seat.technician_id,
                "technician": names[seat.technician_id],
                "day": loaded.keys[seat.day][1].isoformat(),
                "drive_before": seat.drive_before,
                "added_drive": seat.added_drive,
            }
            for seat in opening.seats
        ],
        "parts": [
            {"aim": aim.value, "name": AIMS[aim].name, "minutes": round(points / 60, 1)}
            for aim, points in opening.points.items()
            if abs(points) >= 30
        ],
        "reasons": list(opening.reasons),
    }

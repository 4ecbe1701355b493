"""A window is proved by the planner, and what follows is written while the proof still holds.

The planner is another process and thinks for a while: nothing is locked and no connection is held meanwhile. Under a
short lock it is then looked at whether anything has come to the days of the window since; if so, it is asked again.
"""

from collections.abc import Callable, Iterator, Mapping
from typing import Any, TypeVar

from django.db import connection, transaction
from django.db.models import Q

from apps.appointments import asking
from apps.company.queries import time_zone
from apps.orders.drafts import Draft
from apps.orders.models import Visit
from apps.scheduling.locks import Place, lock_places, lock_visits
from core.basics import Interval
from core.calendars import day_interval, local_day
from core.orders import VisitState
from foundation import audit
from foundation.errors import Conflict, TryAgain
from foundation.moments import to_datetime

# Whoever promises a time holds this until the promise is written: two cannot sell the same last window.
_PROMISING = 4_200_100
TRIES = 4
# Records that say nothing of who has time when.
_BESIDE = frozenset({"request", "order", "file", "mail", "customer", "customer file", "fields", "run", "asset", "crew"})
_OVER = (VisitState.CANCELLED, VisitState.MISSED, VisitState.DONE, VisitState.REVIEWED)

Proof = Mapping[str, Any]
Written = TypeVar("Written")


def while_it_holds(draft: Draft, window: Interval, write: Callable[[Proof], Written]) -> Written:
    """Prove that a window can be kept, and write what follows from it.

    Parameters
    ----------
    write
        Called with the proof, inside a transaction that holds the locks; see planner.offers for its shape.

    Raises
    ------
    Conflict
        When the window cannot be kept (any more).
    TryAgain
        When the days of the window change faster than they can be looked at.
    """
    for _ in range(TRIES):
        seen = audit.mark()
        proof = _proof(draft, window)
        with transaction.atomic():
            _one_at_a_time()
            lock_visits([*(move["visit_id"] for move in proof["moves"]), *([draft.visit_id] if draft.visit_id else [])])
            lock_places(_places(proof))
            if not _has_come(seen, window):
                return write(proof)
    raise TryAgain("The days are changing just now. Try again.", code="busy")


def _proof(draft: Draft, window: Interval) -> Proof:
    proof, refusals = asking.keeps(draft=draft, window=window)
    if proof is None:
        why = "; ".join(refusals[:3]) or "the day has changed, or somebody else promised it"
        raise Conflict(f"That window cannot be kept (any more): {why}. Choose another one.", code="window_gone")
    return proof


def _one_at_a_time() -> None:
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_advisory_xact_lock(%s)", [_PROMISING])


def _places(proof: Proof) -> Iterator[Place]:
    yield from ((row["id"], proof["starts_at"]) for row in proof["technicians"])
    for move in proof["moves"]:
        yield from ((row["technician_id"], row["start"]) for row in move["after"])


def _has_come(seen: tuple[int, int], window: Interval) -> bool:
    """Whether, since a mark, anything was written that may stand in the way of the window: more work on its days, or
    anything about people, places and settings."""
    if audit.mark() == seen:
        return False
    changed = audit.changed_since(seen)
    if changed is None or any(entity != "visit" and entity not in _BESIDE for entity, _id in changed):
        return True
    tz = time_zone()
    first, last = (day_interval(local_day(moment, tz), tz) for moment in (window.start, window.end))
    begins, ends = to_datetime(first.start), to_datetime(last.end)
    there = Q(start__gte=begins, start__lt=ends) | Q(promise_start__lt=ends, promise_end__gt=begins)
    ids = [entity_id for _entity, entity_id in changed]
    return Visit.objects.filter(there, pk__in=ids).exclude(state__in=_OVER).exists()

"""The same thing done to many visits: what cannot be done to one leaves that one as it is and says why."""

from collections.abc import Callable, Iterator, Sequence
from datetime import datetime, time
from typing import Any

from django.db import transaction

from apps.board.commands import placing
from apps.board.commands.sending import send
from apps.board.inputs import Kind, Outcome, Wanted
from apps.company.queries import time_zone
from apps.orders import queries as order_queries
from apps.orders.models import Visit
from apps.people import queries as people
from apps.scheduling.horizon import checked
from apps.scheduling.locks import Place, lock_places, lock_visits
from core.calendars import day_words, epoch, local_day, time_words
from core.orders import VisitState
from core.roles import Action
from core.scheduling import Verdict
from foundation.actors import Actor, require
from foundation.errors import Rejected, RelayError
from foundation.moments import to_moment
from foundation.undo import one_intention

MOST = 200
# Locks the day and the night before it: any start of the day is covered.
MIDNIGHT = time(0)


def bulk(
    *, actor: Actor, now: datetime, visits: Sequence[tuple[int, int]], wanted: Wanted, preview: bool = False
) -> list[Outcome]:
    """Do it to each visit, in the order of their starts; undone in one step.

    Parameters
    ----------
    visits
        Id and version of each.
    preview
        Only say what would become of them: everything is done, looked at, and taken back.

    Raises
    ------
    Rejected
        When nothing can be done to any of them, or what is wanted is not said whole.
    """
    require(actor, Action.PLAN)
    _check(wanted, visits)
    many = _Many(actor=actor, now=now, wanted=wanted)
    with transaction.atomic(), one_intention():
        lock_visits(visit_id for visit_id, _version in visits)
        lock_places(many.places(visits))
        outcomes = [many.do(visit, version) for visit, version in _in_order(visits, later=wanted.seconds > 0)]
        if preview:
            transaction.set_rollback(True)
    if not preview and all(outcome.problem for outcome in outcomes):
        reasons = [f"{outcome.label}: {outcome.problem}" for outcome in outcomes]
        code = "reason_needed" if any(outcome.asks for outcome in outcomes) else "nothing_done"
        raise Rejected("Nothing was changed.", code=code, reasons=reasons[:20])
    return outcomes


def _check(wanted: Wanted, visits: Sequence[tuple[int, int]]) -> None:
    if not visits:
        raise Rejected("Choose at least one visit.", field="visits")
    if wanted.kind == "day" and wanted.day is None:
        raise Rejected("Say which day.", field="day")
    if wanted.day is not None:
        checked(wanted.day)
    if wanted.kind == "give":
        if wanted.technician_id is None:
            raise Rejected("Say to whom.", field="technician_id")
        people.technician(wanted.technician_id)
    if wanted.kind == "cancel" and not wanted.because.strip():
        raise Rejected("Say why they are cancelled.", field="because", code="note_missing")


def _in_order(visits: Sequence[tuple[int, int]], *, later: bool) -> list[tuple[Visit, int]]:
    """By their starts; from the last one back when all move to later, so that none is judged on one yet to move."""
    versions = dict(visits)
    rows = Visit.objects.with_whereabouts().filter(pk__in=versions).order_by("start", "promise_start", "id")
    found = [(row, versions[row.pk]) for row in rows]
    return found[::-1] if later else found


class _Many:
    """One thing done to many."""

    def __init__(self, *, actor: Actor, now: datetime, wanted: Wanted) -> None:
        self.actor, self.now, self.wanted = actor, now, wanted

    def places(self, visits: Sequence[tuple[int, int]]) -> Iterator[Place]:
        """Where the visits go to, to be locked before the first of them moves."""
        if self.wanted.kind not in ("day", "give", "shift"):
            return
        for row in Visit.objects.filter(pk__in=[visit_id for visit_id, _version in visits]):
            start = self._target(row)
            technicians = [self.wanted.technician_id or row.technician_id, *row.mates]
            if start is not None:
                yield from ((technician, start) for technician in technicians if technician is not None)

    def _target(self, visit: Visit) -> int | None:
        tz, start = time_zone(), to_moment(visit.start)
        if self.wanted.kind == "give":
            day = self.wanted.day or local_day(int(self.now.timestamp()) if start is None else start, tz)
            return epoch(day, MIDNIGHT, tz)
        if visit.start is None or start is None:
            return None
        if self.wanted.kind == "shift":
            return start + self.wanted.seconds
        assert self.wanted.day is not None
        return epoch(self.wanted.day, visit.start.astimezone(tz).time(), tz)

    def do(self, visit: Visit, version: int) -> Outcome:
        label = f"{visit.label} {visit.order.site.name}"
        try:
            with transaction.atomic():
                _changed, sentence, verdict = self._one(visit, version)
        except RelayError as error:
            reasons = getattr(error, "reasons", [])
            problem = "; ".join(reasons) or error.sentence
            return Outcome(
                visit_id=visit.pk, label=label, sentence="stays as it is", problem=problem,
                asks=error.code == "reason_needed",
            )  # fmt: skip
        warnings = tuple(r.sentence for r in verdict.reasons if r.weight in ("warns", "asks")) if verdict else ()
        return Outcome(visit_id=visit.pk, label=label, sentence=sentence, warnings=warnings)

    def _one(self, visit: Visit, version: int) -> tuple[Visit, str, Verdict | None]:
        ways: dict[Kind, Callable[[Visit, dict[str, Any]], tuple[Visit, str, Verdict | None]]] = {
            "day": self._move, "give": self._give, "shift": self._move, "unplace": self._unplace,
            "cancel": self._cancel, "send": self._send, "lock": self._pin, "unlock": self._pin,
        }  # fmt: skip
        return ways[self.wanted.kind](
            visit, {"actor": self.actor, "now": self.now, "visit_id": visit.pk, "version": version}
        )

    def _move(self, visit: Visit, known: dict[str, Any]) -> tuple[Visit, str, Verdict | None]:
        start = self._target(visit)
        if start is None or visit.technician_id is None:
            raise Rejected("It has no place to move from.")
        given = self.wanted.technician_id if self.wanted.kind == "shift" else None
        return self._place(known, given or visit.technician_id, start)

    def _place(self, known: dict[str, Any], technician_id: int, start: int) -> tuple[Visit, str, Verdict | None]:
        placed, verdict = placing.place(**known, technician_id=technician_id, start=start, because=self.wanted.because)
        return placed, self._where(placed), verdict

    def _give(self, visit: Visit, known: dict[str, Any]) -> tuple[Visit, str, Verdict | None]:
        assert self.wanted.technician_id is not None
        own = local_day(int(visit.start.timestamp()), time_zone()) if visit.start else None
        day = self.wanted.day or own or local_day(int(self.now.timestamp()), time_zone())
        placed, verdict = placing.place_first(**known, technician_id=self.wanted.technician_id, day=day)
        return placed, self._where(placed), verdict

    def _unplace(self, visit: Visit, known: dict[str, Any]) -> tuple[Visit, str, Verdict | None]:
        sentence = "goes back to the backlog" if visit.promise is None else "goes back to the backlog, with its promise"
        return placing.unplace(**known), sentence, None

    def _cancel(self, _visit: Visit, known: dict[str, Any]) -> tuple[Visit, str, Verdict | None]:
        done = placing.cancel(**known, note=self.wanted.because, tell=self.wanted.tell)
        return done, "is cancelled, and the customer is told" if self.wanted.tell else "is cancelled", None

    def _send(self, visit: Visit, known: dict[str, Any]) -> tuple[Visit, str, Verdict | None]:
        if visit.state != VisitState.PLACED:
            raise Rejected("nothing has changed since it was sent" if visit.start else "it has no technician yet")
        return send(**known), "is sent", None

    def _pin(self, _visit: Visit, known: dict[str, Any]) -> tuple[Visit, str, Verdict | None]:
        lock = self.wanted.kind == "lock"
        return placing.pin(**known, pinned=lock), "is locked" if lock else "is unlocked", None

    def _where(self, visit: Visit) -> str:
        placed = order_queries.visit(visit.pk)
        assert placed.technician is not None
        assert placed.start is not None
        at = placed.start.astimezone(time_zone())
        return f"goes to {placed.technician.name}, {day_words(at)} {time_words(at)}"

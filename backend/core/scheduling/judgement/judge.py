"""What a placement would mean, in words: shown while a visit is dragged, and asked again when it is saved."""

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal

from core.basics import Interval
from core.roads.travel import Travel
from core.scheduling.evaluation.day_walk import evaluate_day
from core.scheduling.evaluation.rules import GRAIN, fit_broken
from core.scheduling.model.day import Day, Stop, VisitSpec
from core.scheduling.model.limits import Broken, Limit
from core.scheduling.model.reasons import Code, Why, about, why
from core.scheduling.model.timetable import Kind, Timetable

# "asks": it may be saved by somebody who says why.
Weight = Literal["good", "note", "warns", "asks", "refuses"]
_LOUDEST_FIRST: tuple[Weight, ...] = ("refuses", "asks", "warns", "good", "note")

FIRST_FIT_STEP = 300


@dataclass(frozen=True, kw_only=True)
class Reason:
    """Something about a placement. `limit` names the limit it is about, if it is about one."""

    weight: Weight
    why: Why
    limit: Limit | None = None

    @property
    def sentence(self) -> str:
        return str(self.why)


@dataclass(frozen=True, kw_only=True)
class Verdict:
    """A placement judged: whether it may be saved, why, and the day as it would become."""

    allowed: bool
    reasons: tuple[Reason, ...]
    timetable: Timetable
    extra_drive_seconds: int
    pushed: int

    def with_reasons(self, more: Sequence[Reason], *, then: Sequence[Reason] = ()) -> "Verdict":
        """The verdict with what else speaks against it, in its place by weight; `then` comes last."""
        reasons = sorted((*self.reasons, *more), key=lambda reason: _LOUDEST_FIRST.index(reason.weight))
        allowed = self.allowed and not any(reason.weight == "refuses" for reason in more)
        return replace(self, allowed=allowed, reasons=(*reasons, *then))

    @property
    def refusals(self) -> tuple[str, ...]:
        return self._of("refuses")

    @property
    def questions(self) -> tuple[str, ...]:
        """What has to be answered with a reason before it is saved."""
        return self._of("asks")

    @property
    def is_plain(self) -> bool:
        """Nothing is broken, for this visit or for another."""
        return not any(reason.weight in ("refuses", "asks", "warns") for reason in self.reasons)

    def _of(self, weight: Weight) -> tuple[str, ...]:
        return tuple(reason.sentence for reason in self.reasons if reason.weight == weight)


def judge(day: Day, stop: Stop, travel: Travel, *, now: int | None = None, before: Timetable | None = None) -> Verdict:
    """What happens to `day` when `stop` is put on it (or moved there within it).

    Parameters
    ----------
    day
        The day as it is, with or without the visit.
    stop
        The visit at its new start.
    before
        The day without the visit, evaluated, for whoever judges many starts; None: it is done here.
    """
    if before is None:
        before = evaluate_day(day.without(stop.visit.id), travel, now=now)
    after = evaluate_day(day.with_stop(stop), travel, now=now)
    broken = [*_locked(stop), *after.broken_for(stop.visit.id)]
    worse = [found for found in after.broken if found.visit_id != stop.visit.id and is_new(found, before.broken)]
    if now is not None and stop.start < now - GRAIN and stop.actual.arrived is None:
        passed = why(Code.HAS_PASSED, day.tz, start=stop.start)
        broken.append(Broken(limit=Limit.DRIVING, visit_id=stop.visit.id, why=passed))
    reasons = [reason_of(found, passed=has_passed(found.limit, stop.visit, now)) for found in broken]
    reasons += [reason_of(found, whose=_label(day, found)) for found in worse]
    # What the playbook does not ask for is said all the same.
    noted = [row for row in after.noted if row.visit_id == stop.visit.id]
    reasons += [Reason(weight="note", why=row.why, limit=row.limit) for row in noted]
    extra = after.total(Kind.DRIVE) - before.total(Kind.DRIVE)
    pushed = _pushed(stop, before, after)
    reasons += _facts(day, stop, after, extra)
    if pushed:
        reasons.append(Reason(weight="note", why=why(Code.PUSHES if pushed > 1 else Code.PUSHES_ONE, visits=pushed)))
    reasons.sort(key=lambda reason: _LOUDEST_FIRST.index(reason.weight))
    return Verdict(
        allowed=not any(reason.weight == "refuses" for reason in reasons),
        reasons=tuple(reasons),
        timetable=after,
        extra_drive_seconds=extra,
        pushed=pushed,
    )


def judge_crew(lead: Verdict, others: Mapping[str, Verdict]) -> Verdict:
    """One verdict for a crew that goes together: the lead's day, and what it means for each of the others, by name.

    What is the same for everybody (the promise, the lock) is said once.
    """
    said = {reason.why for reason in lead.reasons}
    reasons = list(lead.reasons)
    for name, verdict in others.items():
        for reason in verdict.reasons:
            if reason.weight in ("refuses", "asks", "warns") and reason.why not in said:
                own = reason.why if reason.why.given.get("technician") == name else about(name, reason.why)
                reasons.append(replace(reason, why=own))
    reasons.sort(key=lambda reason: _LOUDEST_FIRST.index(reason.weight))
    return replace(
        lead, allowed=lead.allowed and all(verdict.allowed for verdict in others.values()), reasons=tuple(reasons),
        extra_drive_seconds=lead.extra_drive_seconds + sum(row.extra_drive_seconds for row in others.values()),
        pushed=lead.pushed + sum(verdict.pushed for verdict in others.values()),
    )  # fmt: skip


def first_fit(
    day: Day, visit: VisitSpec, travel: Travel, *, now: int | None = None, within: Interval | None = None,
    step: int = FIRST_FIT_STEP, warned: bool = False, before: Timetable | None = None,
    also: Callable[[int, Timetable], bool] | None = None,
) -> tuple[int, Verdict] | None:  # fmt: skip
    """The first start of a day at which a visit fits without breaking anything or pushing another visit.

    Parameters
    ----------
    within
        Only starts from here to there; None: any of the shift.
    step
        Starts are tried on this grid, seconds.
    warned
        Also where it would be warned of something, such as the area; never where a reason is asked for.
    before
        As for `judge`.
    also
        What else must hold of a start and the day as it would become.
    """
    if day.shift is None or _never_fits(day, visit, warned=warned):
        return None
    before = before or evaluate_day(day.without(visit.id), travel, now=now)
    hours = within or Interval(start=day.shift.hours.start, end=day.shift.last_end)
    begins = max(hours.start, now or 0)
    for start in range(-(-begins // step) * step, hours.end, step):
        verdict = judge(day, Stop(visit=visit, start=start), travel, now=now, before=before)
        times = verdict.timetable.stop(visit.id)
        assert times is not None
        fits = verdict.is_plain or (warned and verdict.allowed and not verdict.questions)
        fits = fits and times.starts == start and not verdict.pushed
        if fits and (also is None or also(start, verdict.timetable)):
            return start, verdict
    return None


def _never_fits(day: Day, visit: VisitSpec, *, warned: bool) -> bool:
    """Whether something speaks against the visit at any hour, so that no start has to be tried."""
    assert day.shift is not None
    stop = Stop(visit=visit, start=day.shift.hours.start)
    found = (*_locked(stop), *fit_broken(day, stop))
    return any(row.refuses or row.asks for row in found) if warned else bool(found)


def _locked(stop: Stop) -> Iterator[Broken]:
    if stop.visit.locked:
        locked = stop.visit.locked_because or why(Code.LOCKED)
        yield Broken(limit=Limit.LOCKED, visit_id=stop.visit.id, why=locked)


def is_new(found: Broken, before: Iterable[Broken]) -> bool:
    """Whether a limit is broken now and was not before, or is broken by more."""
    return not any(
        old.limit is found.limit and old.visit_id == found.visit_id and old.seconds + GRAIN > found.seconds
        for old in before
    )


def _label(day: Day, found: Broken) -> str:
    return next((stop.visit.label for stop in day.stops if stop.visit.id == found.visit_id), "")


def has_passed(limit: Limit, visit: VisitSpec, now: int | None) -> bool:
    """Whether nobody can keep this limit any more, wherever the visit is put: its deadline or promise is over."""
    if now is None:
        return False
    if limit is Limit.DUE:
        return visit.due is not None and visit.due < now
    return limit is Limit.PROMISE and bool(visit.windows) and visit.windows[-1].end < now


def reason_of(found: Broken, *, whose: str = "", passed: bool = False) -> Reason:
    """A broken limit as a reason: of the visit itself, or of another one that is named."""
    # Another visit's limits never forbid this placement; they are its price.
    weight: Weight = "note" if passed else "warns"
    if whose and found.limit is Limit.OVERLAP:
        weight = "asks"  # two at once are asked about, whichever of them is put on the other
    if not passed and not whose and (found.refuses or found.asks):
        weight = "refuses" if found.refuses else "asks"
    return Reason(weight=weight, why=about(whose, found.why), limit=found.limit)


def _facts(day: Day, stop: Stop, after: Timetable, extra: int) -> Iterator[Reason]:
    times = after.stop(stop.visit.id)
    assert times is not None
    usual, own = stop.visit.duration, stop.visit.seconds_for(day.technician.id)
    if usual is not None and own is not None and own != usual:
        given = {"own": own, "technician": day.technician.name, "usual": usual}
        yield Reason(weight="note", why=why(Code.OWN_LENGTH, **given))
    promise = stop.visit.promise
    if promise is not None and promise.holds(times.starts):
        spare = why(Code.INSIDE_PROMISE, room=promise.end - times.starts)
        yield Reason(weight="good", why=spare, limit=Limit.PROMISE)
    around = {"extra": abs(extra), "before": times.drive_seconds, "after": _drive_after(stop, after)}
    yield Reason(weight="note", why=why(Code.MORE_DRIVING if extra >= 0 else Code.LESS_DRIVING, **around))
    if day.shift is not None and after.ends is not None:
        left = day.shift.hours.end - after.ends
        ends = why(Code.BACK_IN_TIME, left=left) if left >= 0 else why(Code.OVERTIME, over=-left)
        yield Reason(weight="note", why=ends)
    if any(stretch.estimated for stretch in after.stretches if stretch.visit_id == stop.visit.id):
        yield Reason(weight="warns", why=why(Code.DRIVING_GUESSED))


def _drive_after(stop: Stop, after: Timetable) -> int:
    """Seconds of the drive that leaves the visit: to the next one, or home."""
    ends = next(row.ends for row in after.stops if row.visit_id == stop.visit.id)
    return next((row.seconds for row in after.stretches if row.kind is Kind.DRIVE and row.start >= ends), 0)


def relief(day: Day, visit_id: int, travel: Travel, *, now: int | None = None) -> Reason:
    """What a day is spared when a visit leaves it."""
    saved = evaluate_day(day, travel, now=now).total(Kind.DRIVE)
    saved -= evaluate_day(day.without(visit_id), travel, now=now).total(Kind.DRIVE)
    code = Code.LESS_DRIVING_FOR if saved >= 0 else Code.MORE_DRIVING_FOR
    return Reason(weight="note", why=why(code, extra=abs(saved), technician=day.technician.name))


def _pushed(stop: Stop, before: Timetable, after: Timetable) -> int:
    return sum(
        1
        for old in before.stops
        if old.visit_id != stop.visit.id
        and (new := after.stop(old.visit_id)) is not None
        and new.starts - old.starts >= GRAIN
    )

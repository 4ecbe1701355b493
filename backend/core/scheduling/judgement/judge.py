"""What a placement would mean, in words: shown while a visit is dragged, and asked again when it is saved."""

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal

from core.basics import Interval, minutes_in_words
from core.calendars import local_time
from core.roads.travel import Travel
from core.scheduling.evaluation.day_walk import evaluate_day
from core.scheduling.evaluation.rules import GRAIN, fit_broken
from core.scheduling.model.day import Day, Stop, VisitSpec
from core.scheduling.model.limits import Broken, Limit
from core.scheduling.model.timetable import Kind, Timetable

# "asks": it may be saved by somebody who says why.
Weight = Literal["good", "note", "warns", "asks", "refuses"]
_LOUDEST_FIRST: tuple[Weight, ...] = ("refuses", "asks", "warns", "good", "note")

FIRST_FIT_STEP = 300


@dataclass(frozen=True, kw_only=True)
class Reason:
    """One sentence about a placement. `limit` names the limit it is about, if it is about one."""

    weight: Weight
    sentence: str
    limit: Limit | None = None


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
        past = f"{local_time(stop.start, day.tz)} has passed"
        broken.append(Broken(limit=Limit.DRIVING, visit_id=stop.visit.id, sentence=past))
    reasons = [reason_of(found, passed=has_passed(found.limit, stop.visit, now)) for found in broken]
    reasons += [reason_of(found, about=_label(day, found)) for found in worse]
    # What the playbook does not ask for is said all the same.
    noted = [row for row in after.noted if row.visit_id == stop.visit.id]
    reasons += [Reason(weight="note", sentence=row.sentence, limit=row.limit) for row in noted]
    extra = after.total(Kind.DRIVE) - before.total(Kind.DRIVE)
    pushed = _pushed(stop, before, after)
    reasons += _facts(day, stop, after, extra)
    if pushed:
        reasons.append(Reason(weight="note", sentence=f"Pushes {pushed} later visit{'s' if pushed > 1 else ''}"))
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
    said = {reason.sentence for reason in lead.reasons}
    reasons = list(lead.reasons)
    for name, verdict in others.items():
        for reason in verdict.reasons:
            if reason.weight in ("refuses", "asks", "warns") and reason.sentence not in said:
                own = reason.sentence if name in reason.sentence else f"{name}: {_begun(reason.sentence)}"
                reasons.append(replace(reason, sentence=own))
    reasons.sort(key=lambda reason: _LOUDEST_FIRST.index(reason.weight))
    return replace(
        lead, allowed=lead.allowed and all(verdict.allowed for verdict in others.values()), reasons=tuple(reasons),
        extra_drive_seconds=lead.extra_drive_seconds + sum(row.extra_drive_seconds for row in others.values()),
        pushed=lead.pushed + sum(verdict.pushed for verdict in others.values()),
    )  # fmt: skip


def _begun(sentence: str) -> str:
    """For the middle of a sentence; a name or a number stays as it is."""
    first = sentence.split(" ", 1)[0]
    return (
        sentence if any(sign.isupper() or sign.isdigit() for sign in first[1:]) else sentence[0].lower() + sentence[1:]
    )


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
        why = stop.visit.locked_because or "It is locked"
        yield Broken(limit=Limit.LOCKED, visit_id=stop.visit.id, sentence=why)


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


def reason_of(found: Broken, *, about: str = "", passed: bool = False) -> Reason:
    """A broken limit as a reason: of the visit itself, or of another one that is named."""
    sentence = f"{about}: {found.sentence[0].lower()}{found.sentence[1:]}" if about else found.sentence
    # Another visit's limits never forbid this placement; they are its price.
    weight: Weight = "note" if passed else "warns"
    if about and found.limit is Limit.OVERLAP:
        weight = "asks"  # two at once are asked about, whichever of them is put on the other
    if not passed and not about and (found.refuses or found.asks):
        weight = "refuses" if found.refuses else "asks"
    return Reason(weight=weight, sentence=sentence, limit=found.limit)


def _facts(day: Day, stop: Stop, after: Timetable, extra: int) -> Iterator[Reason]:
    times = after.stop(stop.visit.id)
    assert times is not None
    usual, own = stop.visit.duration, stop.visit.seconds_for(day.technician.id)
    if usual is not None and own is not None and own != usual:
        sentence = f"{minutes_in_words(own)} of work by the visits {day.technician.name} has done, usually "
        yield Reason(weight="note", sentence=sentence + minutes_in_words(usual))
    promise = stop.visit.promise
    if promise is not None and promise.holds(times.starts):
        room = minutes_in_words(promise.end - times.starts)
        yield Reason(weight="good", sentence=f"Inside the promise, {room} to spare", limit=Limit.PROMISE)
    more = "more" if extra >= 0 else "less"
    around = f"{times.drive_seconds // 60} min before it, {_drive_after(stop, after) // 60} after"
    yield Reason(weight="note", sentence=f"{minutes_in_words(abs(extra))} {more} driving: {around}")
    if day.shift is not None and after.ends is not None:
        left = day.shift.hours.end - after.ends
        where = f"Back {minutes_in_words(left)} before the shift ends"
        yield Reason(weight="note", sentence=where if left >= 0 else f"{minutes_in_words(-left)} of overtime")
    if any(stretch.estimated for stretch in after.stretches if stretch.visit_id == stop.visit.id):
        yield Reason(weight="warns", sentence="No road leads there on the map: driving is a guess")


def _drive_after(stop: Stop, after: Timetable) -> int:
    """Seconds of the drive that leaves the visit: to the next one, or home."""
    ends = next(row.ends for row in after.stops if row.visit_id == stop.visit.id)
    return next((row.seconds for row in after.stretches if row.kind is Kind.DRIVE and row.start >= ends), 0)


def relief(day: Day, visit_id: int, travel: Travel, *, now: int | None = None) -> Reason:
    """What a day is spared when a visit leaves it."""
    saved = evaluate_day(day, travel, now=now).total(Kind.DRIVE)
    saved -= evaluate_day(day.without(visit_id), travel, now=now).total(Kind.DRIVE)
    more = "less" if saved >= 0 else "more"
    return Reason(weight="note", sentence=f"{minutes_in_words(abs(saved))} {more} driving for {day.technician.name}")


def _pushed(stop: Stop, before: Timetable, after: Timetable) -> int:
    return sum(
        1
        for old in before.stops
        if old.visit_id != stop.visit.id
        and (new := after.stop(old.visit_id)) is not None
        and new.starts - old.starts >= GRAIN
    )

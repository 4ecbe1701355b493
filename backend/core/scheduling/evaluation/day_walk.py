"""The walk through one technician's day: it becomes a timetable with its broken limits.

The order of the stops is the order of their planned starts. A stop starts at its planned time, or
as soon as the technician can be there. What has already happened is taken as it happened, and
nothing that has not is put before `now`.
"""

from dataclasses import dataclass

from core.basics import Interval
from core.roads.travel import Travel, latest_departure
from core.scheduling.evaluation.rules import day_rules, stop_rules
from core.scheduling.model.day import Day, Stop
from core.scheduling.model.timetable import Kind, StopTimes, Stretch, Timetable

# Work of unknown length is drawn as this; the limit "duration" says that it is a guess.
UNKNOWN_DURATION = 3600


def evaluate_day(day: Day, travel: Travel, *, now: int | None = None) -> Timetable:
    """Timetable of a day.

    Parameters
    ----------
    day
        Shift, absences and stops of one technician.
    travel
        Driving between place indices.
    now
        Epoch second before which nothing can still begin; None when the day lies ahead.

    Returns
    -------
    Timetable
        Infeasible days have one too: what would really happen, with the limits it breaks.
    """
    walk = _Walk(day, travel, now)
    for stop in day.stops:
        walk.go_to(stop)
    walk.go_home()
    stops = tuple(walk.times)
    overtime = _overtime(day, walk.stretches)
    rows = [
        found
        for position, (stop, times) in enumerate(zip(day.stops, stops, strict=True))
        for found in stop_rules(day, position, stop, times, stops)
    ]
    rows += day_rules(day, walk.stretches, rested=walk.rested)
    return Timetable(
        stretches=tuple(walk.stretches), stops=stops, overtime=overtime,
        broken=tuple(row for row in rows if row.limit not in day.unasked),
        noted=tuple(row for row in rows if row.limit in day.unasked),
    )  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class Whereabouts:
    """Where a technician is and free from when on, once everything that has begun is over."""

    place: int
    free: int
    rested: bool


def whereabouts(day: Day, travel: Travel, *, now: int | None) -> Whereabouts | None:
    """Whereabouts after the stops that have begun; None while none has."""
    if not day.running:
        return None
    walk = _Walk(day, travel, now)
    for stop in day.running:
        walk.go_to(stop)
    assert walk.free is not None
    return Whereabouts(place=walk.place, free=walk.not_before_now(walk.free), rested=walk.rested)


def _overtime(day: Day, stretches: list[Stretch]) -> Interval | None:
    if day.shift is None or not stretches or stretches[-1].end <= day.shift.hours.end:
        return None
    return Interval(start=day.shift.hours.end, end=stretches[-1].end)


class _Walk:
    """The technician going through the day: where, and when free again."""

    def __init__(self, day: Day, travel: Travel, now: int | None) -> None:
        self.day = day
        self.travel = travel
        self.now = now
        self.place = day.start_place
        self.free: int | None = None  # None until the first drive: the start of the shift bounds it
        self.stretches: list[Stretch] = []
        self.times: list[StopTimes] = []
        shift = day.shift
        self.rested = shift is None or shift.rest is None or not day.stops

    def go_to(self, stop: Stop) -> None:
        actual = stop.actual
        self._rest_before_drive(stop)
        departs = actual.departed if actual.departed is not None else self._departure(stop)
        departs = max(departs, self.free or departs)
        leg = self.travel.leg(self.place, stop.visit.place, departs)
        arrives = departs + leg.seconds
        if actual.arrived is not None:
            # The clock on the wall is right: the drive took what it took, within what it can take.
            arrives = max(actual.arrived, self.free or actual.arrived)
            departs = max(arrives - leg.seconds, self.free or arrives - leg.seconds)
        elif actual.departed is not None and self.now is not None:
            arrives = max(arrives, self.now)
        self._add(Kind.DRIVE, departs, arrives, stop, metres=leg.metres, estimated=leg.estimated)
        resumed = self._rest_on_arrival(arrives, stop)
        starts = resumed if actual.arrived is not None else max(resumed, stop.start)
        self._add(Kind.WAIT, resumed, starts, stop)
        ends = self._end_of_work(stop, starts)
        self._add(Kind.WORK, starts, ends, stop)
        self.place, self.free = stop.visit.place, ends
        self.times.append(
            StopTimes(
                visit_id=stop.visit.id,
                drive_seconds=arrives - departs,
                drive_metres=leg.metres,
                arrives=arrives,
                starts=starts,
                ends=ends,
            )
        )

    def go_home(self) -> None:
        if not self.times:
            return
        self._rest_before_home()
        assert self.free is not None
        departs = self.not_before_now(self.free)
        leg = self.travel.leg(self.place, self.day.end_place, departs)
        self._add(Kind.DRIVE, departs, departs + leg.seconds, None, metres=leg.metres, estimated=leg.estimated)

    def _departure(self, stop: Stop) -> int:
        """At once when work before is finished; for the first stop just in time."""
        if self.free is not None:
            return self.not_before_now(self.free)
        shift_start = self.day.shift.hours.start if self.day.shift else stop.start - 12 * 3600
        by = latest_departure(self.travel, self.place, stop.visit.place, stop.start)
        departs = self.not_before_now(max(by, shift_start))
        self._rest_at_the_start(shift_start, departs)
        return departs

    def _rest_at_the_start(self, shift_start: int, departs: int) -> None:
        """A day that begins late: the break is over before the first drive."""
        shift = self.day.shift
        if self.rested or shift is None or shift.rest is None:
            return
        begins = self.not_before_now(max(shift_start, shift.rest.start))
        ends = begins + shift.rest_seconds
        if ends <= min(departs, shift.rest.end):
            self._add(Kind.BREAK, begins, ends, None)
            self.rested = True

    def not_before_now(self, moment: int) -> int:
        return moment if self.now is None else max(moment, self.now)

    def _end_of_work(self, stop: Stop, starts: int) -> int:
        if stop.actual.finished is not None:
            return max(stop.actual.finished, starts)
        ends = starts + (stop.visit.seconds_for(self.day.technician.id) or UNKNOWN_DURATION)
        if stop.actual.arrived is not None and self.now is not None:
            return max(ends, self.now)
        return ends

    def _rest_before_drive(self, stop: Stop) -> None:
        """Rest where the last work was, when the drive still fits between the break and the next start."""
        if self.free is None or stop.has_begun:
            return
        break_ = self._break_from(self.not_before_now(self.free))
        if break_ is None:
            return
        drive = self.travel.leg(self.place, stop.visit.place, break_.end).seconds
        if break_.end + drive <= stop.start:
            self.free = self._rest(self.not_before_now(self.free), break_)

    def _rest_on_arrival(self, arrives: int, stop: Stop) -> int:
        break_ = None if stop.has_begun else self._break_from(arrives)
        if break_ is None or break_.end > stop.start:
            return arrives
        return self._rest(arrives, break_)

    def _rest_before_home(self) -> None:
        """A day that is over by the end of the break's window needs none; else it is taken before the way home."""
        shift = self.day.shift
        assert self.free is not None
        free = self.not_before_now(self.free)
        home = free + self.travel.leg(self.place, self.day.end_place, free).seconds
        if shift is not None and shift.rest is not None and home <= shift.rest.end:
            self.rested = True
        elif break_ := self._break_from(free):
            self.free = self._rest(free, break_)

    def _break_from(self, moment: int) -> Interval | None:
        """When the break would be, from that moment on, if it is still due and fits its window.

        A break never pushes a planned start: if it fits nowhere, the limit "break" says so.
        """
        shift = self.day.shift
        if self.rested or shift is None or shift.rest is None:
            return None
        begins = max(moment, shift.rest.start)
        ends = begins + shift.rest_seconds
        return None if ends > shift.rest.end else Interval(start=begins, end=ends)

    def _rest(self, moment: int, break_: Interval) -> int:
        self._add(Kind.WAIT, moment, break_.start, None)
        self._add(Kind.BREAK, break_.start, break_.end, None)
        self.rested = True
        return break_.end

    def _add(
        self, kind: Kind, start: int, end: int, stop: Stop | None, *, metres: int = 0, estimated: bool = False
    ) -> None:
        if end > start:
            self.stretches.append(
                Stretch(
                    kind=kind,
                    start=start,
                    end=end,
                    visit_id=stop.visit.id if stop else None,
                    metres=metres,
                    estimated=estimated,
                )
            )

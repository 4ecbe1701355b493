"""What ties visits to each other across people and days, links and crews, where it does not hold."""

from collections.abc import Callable, Collection, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass

from apps.orders import queries as orders
from apps.orders.lines import VisitLine
from apps.scheduling.assembling import technicians_of
from core.basics import Interval
from core.orders import VisitState
from core.orders.links import Link
from core.scheduling import Broken
from core.scheduling.evaluation.findings import crew_broken
from core.scheduling.evaluation.links import LinkEnd, link_broken
from core.scheduling.model.timetable import StopTimes

TimesOf = Callable[[Collection[int]], Mapping[int, StopTimes]]
_OVER = (VisitState.CANCELLED, VisitState.MISSED)


@dataclass(frozen=True, kw_only=True)
class Ties:
    """Links that are looked at, the visits at both ends, and when those are expected to begin and end."""

    links: Sequence[Link]
    lines: Mapping[int, VisitLine]
    times: Mapping[int, StopTimes]

    def broken(
        self, *, moved: VisitLine | None = None, times: Mapping[int, StopTimes] | None = None
    ) -> Iterator[Broken]:
        """What of the links does not hold.

        Parameters
        ----------
        moved, times
            A visit as it would be, and when it and those beside it would then begin and end; None: as things are.
        """
        lines = self.lines if moved is None else {**self.lines, moved.id: moved}
        known = self.times if times is None else {**self.times, **times}
        for link in self.links:
            if link.first in lines and lines[link.first].state not in _OVER:
                yield from link_broken(link, _end_of(lines[link.first], known), _end_of(lines[link.second], known))


def ties_of(
    links: Iterable[Link], known: Mapping[int, VisitLine], times: Mapping[int, StopTimes], *, hours: Interval,
    times_of: TimesOf,
) -> Ties:  # fmt: skip
    """Links with what has to be known of both ends: as the timetables of these days have them, and what stands on
    other days as it is planned.

    Parameters
    ----------
    known, times
        Visits and times that are known already.
    hours, times_of
        The days looked at, and the expected times on them of other technicians.
    """
    links = list(links)
    ends = {key for link in links for key in (link.first, link.second)}
    lines = {key: known[key] for key in ends & known.keys()}
    lines |= {line.id: line for line in orders.lines_named(ends - known.keys())}
    others = {
        line.technician_id
        for line in lines.values()
        if line.id not in times and line.start is not None and hours.start <= line.start < hours.end
    }
    if people := [key for key in others if key is not None]:
        times = {**times_of(people), **times}
    # An end that was deleted meanwhile ties nothing.
    return Ties(links=[link for link in links if link.second in lines], lines=lines, times=times)


def untied(
    visits: Sequence[VisitLine], links: Iterable[Link], times: Mapping[int, StopTimes], *, hours: Interval,
    times_of: TimesOf, changed: Mapping[int, VisitLine],
) -> dict[int, list[Broken]]:  # fmt: skip
    """What of the links and crews of these visits does not hold, by visit.

    Parameters
    ----------
    links
        The ties that one of them is an end of.
    times
        When the visits are expected to begin and end.
    hours, times_of
        As for `ties_of`.
    changed
        Visits as they would be, by id.
    """
    lines = {**changed, **{visit.id: visit for visit in visits}}
    ids = {visit.id for visit in visits}
    links = [link for link in links if link.second in ids]
    found: dict[int, list[Broken]] = {}
    ties = ties_of(links, lines, times, hours=hours, times_of=times_of)
    for row in (*crews_broken(visits), *ties.broken()):
        assert row.visit_id is not None
        found.setdefault(row.visit_id, []).append(row)
    return found


def crews_broken(visits: Iterable[VisitLine]) -> Iterator[Broken]:
    """Visits to which more or fewer go than they take."""
    for line in visits:
        row = crew_broken(line.id, line.number, wanted=line.crew, going=len(technicians_of(line)))
        if row is not None and not line.state.is_ended:
            yield row


def _end_of(line: VisitLine, times: Mapping[int, StopTimes]) -> LinkEnd:
    own = times.get(line.id)
    starts, length = line.start, line.duration_seconds or 0
    ends = line.finished or (None if starts is None else starts + length)
    if own is not None:
        starts, ends = own.starts, own.ends
    return LinkEnd(label=line.number, starts=starts, ends=ends, technicians=frozenset(technicians_of(line)))

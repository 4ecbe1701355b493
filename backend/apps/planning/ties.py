"""What ties visits to each other across people and days, links and crews, where it does not hold."""

from collections.abc import Callable, Collection, Iterator, Mapping, Sequence

from apps.orders import queries as orders
from apps.orders.lines import VisitLine
from apps.planning.assembling import hands_of
from core.basics import Interval
from core.orders import VisitState
from core.planning import Broken
from core.planning.findings import crew_broken
from core.planning.links import LinkEnd, link_broken
from core.planning.timetable import StopTimes

TimesOf = Callable[[Collection[int]], Mapping[int, StopTimes]]


def untied(
    visits: Sequence[VisitLine], times: Mapping[int, StopTimes], *, hours: Interval, times_of: TimesOf,
    changed: Mapping[int, VisitLine],
) -> dict[int, list[Broken]]:  # fmt: skip
    """What of the links and crews of these visits does not hold, by visit.

    Parameters
    ----------
    times
        When the visits are expected to begin and end.
    hours, times_of
        The days looked at, and the expected times on them of other technicians: a link may lead to their visits.
    changed
        Visits as they would be, by id.
    """
    found: dict[int, list[Broken]] = {}
    for row in (*_crews(visits), *_links(visits, times, hours, times_of, changed)):
        assert row.visit_id is not None
        found.setdefault(row.visit_id, []).append(row)
    return found


def _crews(visits: Sequence[VisitLine]) -> Iterator[Broken]:
    for line in visits:
        going = len(hands_of(line))
        row = crew_broken(line.id, line.number, wanted=line.crew, going=going)
        if row is not None and not line.state.is_ended:
            yield row


def _links(
    visits: Sequence[VisitLine], times: Mapping[int, StopTimes], hours: Interval, times_of: TimesOf,
    changed: Mapping[int, VisitLine],
) -> Iterator[Broken]:  # fmt: skip
    """As the timetables have them, and what stands on other days as it is planned."""
    lines = {visit.id: visit for visit in visits}
    links = [link for link in orders.all_links() if link.second in lines]
    wanted = {key for link in links for key in (link.first, link.second)} - lines.keys()
    lines |= {line.id: changed.get(line.id, line) for line in orders.lines_named(wanted)}
    others = {
        lines[key].technician_id
        for key in wanted & lines.keys()
        if (start := lines[key].start) is not None and hours.start <= start < hours.end
    }
    if people := [key for key in others if key is not None]:
        times = {**times_of(people), **times}
    for link in links:
        if link.first in lines and lines[link.first].state not in (VisitState.CANCELLED, VisitState.MISSED):
            yield from link_broken(link, _link_end(lines[link.first], times), _link_end(lines[link.second], times))


def _link_end(line: VisitLine, times: Mapping[int, StopTimes]) -> LinkEnd:
    own = times.get(line.id)
    starts, length = line.start, line.duration_seconds or 0
    ends = line.finished or (None if starts is None else starts + length)
    if own is not None:
        starts, ends = own.starts, own.ends
    return LinkEnd(label=line.number, starts=starts, ends=ends, hands=frozenset(hands_of(line)))

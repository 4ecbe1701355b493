"""Links between visits that cannot hold, and visits that go on over several days as parts tied by links."""

from collections.abc import Iterable, Mapping
from dataclasses import replace
from itertools import pairwise

from core.orders.links import Link, LinkKind
from core.scheduling.model.day import VisitSpec

# Parts of a visit that goes on over several days have ids of their own: the visit's, and the part's number.
PART = 1 << 40
# Work goes on the next working day: not the same evening, and not after a week.
LEAST_NIGHT, GREATEST_NIGHT = 8 * 3600, 5 * 86_400


def check_links(links: Iterable[Link], visits: Mapping[int, VisitSpec]) -> None:
    """Refuse links that cannot hold.

    Raises
    ------
    ValueError
        When visits would wait for each other in a ring; the text names them.
    """
    after: dict[int, set[int]] = {}
    for link in links:
        if link.kind is LinkKind.AFTER:
            after.setdefault(link.second, set()).add(link.first)
    state: dict[int, int] = {}
    for start in after:
        trail = _ring_from(start, after, state)
        if trail:
            names = " → ".join(visits[visit_id].label if visit_id in visits else str(visit_id) for visit_id in trail)
            raise ValueError(f"These visits wait for each other: {names}")


def _ring_from(start: int, after: Mapping[int, set[int]], state: dict[int, int]) -> list[int]:
    """A ring of "comes after" reached from `start`, or nothing; depth first."""
    open_, done = 1, 2
    stack: list[tuple[int, list[int]]] = [(start, sorted(after.get(start, ())))]
    if state.get(start) == done:
        return []
    state[start] = open_
    while stack:
        node, rest = stack[-1]
        if not rest:
            state[node] = done
            stack.pop()
            continue
        following = rest.pop()
        if state.get(following) == open_:
            trail = [entry for entry, _ in stack]
            return [*trail[trail.index(following) :], following]
        if state.get(following) != done:
            state[following] = open_
            stack.append((following, sorted(after.get(following, ()))))
    return []


def over_days(visit: VisitSpec, *, day_seconds: int) -> tuple[tuple[VisitSpec, ...], tuple[Link, ...]]:
    """A visit too long for one day, as parts of at most `day_seconds` on following days by the same technicians.

    The promise binds the first part only: that is when the customer was told somebody comes.
    """
    if visit.duration is None or visit.duration <= day_seconds:
        return (visit,), ()
    count = -(-visit.duration // day_seconds)
    parts, left = [], visit.duration
    for number in range(count):
        seconds = min(day_seconds, left)
        left -= seconds
        part = replace(visit, id=visit.id + number * PART, duration=seconds, durations={})
        if number:
            part = replace(part, label=f"{visit.label}, day {number + 1}", promise=None, other_windows=())
        parts.append(part)
    links = []
    for one, two in pairwise(parts):
        links.append(Link(kind=LinkKind.AFTER, first=one.id, second=two.id, least=LEAST_NIGHT, greatest=GREATEST_NIGHT))
        links.append(Link(kind=LinkKind.SAME_TECHNICIAN, first=one.id, second=two.id))
    return tuple(parts), tuple(links)

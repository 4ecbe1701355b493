"""What is left on technicians' vans when a day begins."""

from collections import Counter
from collections.abc import Collection, Iterable, Mapping
from datetime import datetime

from apps.orders import queries as orders
from apps.orders.lines import VisitLine
from apps.stock import queries as stock

Vans = Mapping[int, Mapping[str, int]]
NOT_COUNTED: Vans = {}


def vans_before(
    moment: datetime, lines: Iterable[VisitLine], technician_ids: Collection[int] | None = None,
    *, but: Collection[int] = (),
) -> Vans:  # fmt: skip
    """What lies on each counted van once everything planned before a moment has taken its parts.

    Parameters
    ----------
    lines
        The visits that are looked at. If none of them takes a part, no van matters, and nothing is read.
    but
        Visits that are asked about: they may come to lie elsewhere, so what they take is not taken yet.
    """
    if not any(line.takes for line in lines):
        return NOT_COUNTED
    vans = stock.vans(technician_ids)
    return less(vans, orders.takings_before(moment, vans.keys(), but=but) if vans else ())


def less(vans: Vans, takings: Iterable[tuple[int, Mapping[str, int]]]) -> Vans:
    """The vans after technicians took parts. Nothing goes below zero: what was not there was not taken."""
    left = {key: Counter(van) for key, van in vans.items()}
    for technician_id, parts in takings:
        if technician_id in left:
            left[technician_id].subtract(parts)
    return {key: {part: max(0, number) for part, number in van.items()} for key, van in left.items()}


def takings(lines: Iterable[VisitLine]) -> Iterable[tuple[int, Mapping[str, int]]]:
    """Who will still take what for these visits: the one who leads takes it along."""
    return (
        (line.technician_id, line.takes)
        for line in lines
        if line.technician_id is not None and line.takes and line.finished is None
    )

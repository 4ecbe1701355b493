"""What happened here lately, in a few lines made by rule from the records: for whoever is about to go there."""

from collections.abc import Sequence
from dataclasses import dataclass, field

MOST_LINES = 5
_MOST_READINGS = 2
# A trend over fewer is none.
_LEAST_VALUES = 4


@dataclass(frozen=True, kw_only=True)
class PastVisit:
    """A finished visit at the same equipment, or the same site. `at` in epoch seconds.

    `left_open`: tasks that were not done; `note`: what was written down for the office.
    """

    order_id: int
    at: int
    technician: str
    title: str
    outcome: str = ""
    parts: Sequence[str] = ()
    left_open: Sequence[str] = ()
    note: str = ""


@dataclass(frozen=True, kw_only=True)
class Readings:
    """Values of one question at one piece of equipment, the oldest first, each with its time and its order."""

    label: str
    values: Sequence[tuple[int, float, int]]
    unit: str = ""
    least: float | None = None
    most: float | None = None


@dataclass(frozen=True, kw_only=True)
class Line:
    """One line. `order_id` is where it comes from, `at` when that was."""

    words: str
    order_id: int
    at: int
    pressing: bool = field(default=False)


def lately(visits: Sequence[PastVisit], readings: Sequence[Readings]) -> tuple[Line, ...]:
    """At most five lines, what matters most first.

    Readings that leave their bounds or drift towards them; what the last visit left open or noted for the office; then
    what was done, the newest first.

    Parameters
    ----------
    visits
        The newest first.
    """
    drifting = [line for one in readings if (line := _drift(one)) is not None]
    drifting.sort(key=lambda line: (not line.pressing, -line.at))
    open_still = [line for visit in visits[:1] for line in _left(visit)]
    done = [_done(visit) for visit in visits]
    return tuple([*drifting[:_MOST_READINGS], *open_still, *done][:MOST_LINES])


def _left(visit: PastVisit) -> list[Line]:
    lines = []
    if visit.left_open:
        words = f"Left open last time: {', '.join(visit.left_open)}"
        lines.append(Line(words=words, order_id=visit.order_id, at=visit.at, pressing=True))
    if visit.note:
        lines.append(Line(words=f"{visit.technician} noted: {visit.note}", order_id=visit.order_id, at=visit.at))
    return lines


def _done(visit: PastVisit) -> Line:
    parts = f" Parts: {', '.join(visit.parts)}." if visit.parts else ""
    outcome = f": {visit.outcome}" if visit.outcome else ""
    words = f"{visit.title}, {visit.technician}{outcome}{parts}"
    return Line(words=words, order_id=visit.order_id, at=visit.at)


def _drift(readings: Readings) -> Line | None:
    """A reading that is out of its bounds, or that will be by the time of the reading after next as it goes."""
    values = readings.values
    if not values:
        return None
    at, last, order_id = values[-1]
    unit = f" {readings.unit}" if readings.unit else ""
    bound = _left_bound(readings, last)
    if bound is not None:
        side = "at most" if bound == readings.most else "at least"
        words = f"{readings.label}: {last:g}{unit}, {side} {bound:g}{unit} is right"
        return Line(words=words, order_id=order_id, at=at, pressing=True)
    if len(values) < _LEAST_VALUES:
        return None
    slope, spread = _slope([value for _at, value, _order in values])
    ahead = _left_bound(readings, last + 2 * slope)
    if ahead is None or abs(slope) <= spread:
        return None
    first = values[0][1]
    words = (
        f"{readings.label} goes from {first:g} to {last:g}{unit} over {len(values)} readings; "
        f"{'at most' if ahead == readings.most else 'at least'} {ahead:g}{unit} is right"
    )
    return Line(words=words, order_id=order_id, at=at)


def _left_bound(readings: Readings, value: float) -> float | None:
    """The bound that a value leaves, if it leaves one."""
    if readings.most is not None and value > readings.most:
        return readings.most
    if readings.least is not None and value < readings.least:
        return readings.least
    return None


def _slope(values: Sequence[float]) -> tuple[float, float]:
    """By how much it changes from one reading to the next (least squares), and how sure that is (standard error)."""
    count = len(values)
    middle = (count - 1) / 2
    mean = sum(values) / count
    square = sum((index - middle) ** 2 for index in range(count))
    slope = sum((index - middle) * (value - mean) for index, value in enumerate(values)) / square
    rest = sum((value - mean - slope * (index - middle)) ** 2 for index, value in enumerate(values))
    return slope, (rest / max(1, count - 2) / square) ** 0.5

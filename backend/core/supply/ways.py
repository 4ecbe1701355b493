"""Ways to get a missing part to a visit, ranked by whether they are in time and what they cost."""

from collections.abc import Iterable
from dataclasses import dataclass
from decimal import Decimal
from enum import StrEnum

from core.pricing.money import rounded


class WayKind(StrEnum):
    """How a part comes: a stop at a depot, from a colleague on the way, another part instead, somebody else goes, the
    supplier brings it."""

    DEPOT = "depot"
    COLLEAGUE = "colleague"
    SUBSTITUTE = "substitute"
    GIVE = "give"
    SUPPLIER = "supplier"


# Of equal cost what disturbs least comes first.
_ORDER = (WayKind.SUBSTITUTE, WayKind.DEPOT, WayKind.COLLEAGUE, WayKind.GIVE, WayKind.SUPPLIER)


@dataclass(frozen=True, kw_only=True)
class Rates:
    """What time and distance cost, in smallest units: an hour of a technician, a kilometre of a vehicle."""

    hour: Decimal
    kilometre: Decimal

    def of(self, seconds: int, metres: int) -> int:
        """What so much more of a day costs; less of it is worth as much."""
        return rounded(self.hour * seconds / 3600 + self.kilometre * metres / 1000)


@dataclass(frozen=True, kw_only=True)
class Way:
    """One way to get a missing part.

    Attributes
    ----------
    key : the same way has the same key, however often it is asked for.
    part, quantity : what comes; a substitute is another part than the missing one.
    place_id : where it comes from, where it lies somewhere.
    technician_id : who brings it, or does the visit instead.
    meeting_id : the visit of theirs at which it changes hands.
    start : when it is fetched or handed over, or the visit begins with somebody else; epoch seconds.
    there_at : when it is there; None: it is there when the visit begins.
    seconds, metres : how much more of a day it takes, below zero less.
    money : what it costs more, in smallest units, time and distance included.
    in_time : whether it is there when the visit begins, and nothing else breaks.
    moves : visits that begin later then, with their new starts, in the order of the day.
    words, reasons : what is done, and what speaks for and against it.
    """

    kind: WayKind
    key: str
    part: str
    quantity: int
    words: str
    place_id: int | None = None
    technician_id: int | None = None
    meeting_id: int | None = None
    start: int | None = None
    there_at: int | None = None
    seconds: int = 0
    metres: int = 0
    money: int = 0
    in_time: bool = True
    moves: tuple[tuple[int, int], ...] = ()
    reasons: tuple[str, ...] = ()


def ranked(ways: Iterable[Way]) -> list[Way]:
    """Those that are in time first; then by what they cost, time and distance in money; then what disturbs least."""
    return sorted(ways, key=lambda way: (not way.in_time, way.money, _ORDER.index(way.kind), way.key))

"""Parts and where they lie: movements, levels, what is spoken for, what ought to be there."""

from core.stock.costs import average_after, value
from core.stock.counting import CountedLine, CountScope, needs_second, sample, total_worth
from core.stock.movements import (
    MOST,
    Key,
    Move,
    TooFew,
    book,
    check_tracking,
    check_way,
    sums,
    touched,
    where_serials_lie,
)
from core.stock.parts import Tracking, gtin
from core.stock.places import COUNTED, USABLE, WAYS, MoveReason, PlaceKind, may_move
from core.stock.reserving import Coming, Draw, Driver, Need, Reserved, Supplies, reserve
from core.stock.thresholds import Threshold, proposed, wanted

__all__ = [
    "COUNTED",
    "MOST",
    "USABLE",
    "WAYS",
    "Coming",
    "CountScope",
    "CountedLine",
    "Draw",
    "Driver",
    "Key",
    "Move",
    "MoveReason",
    "Need",
    "PlaceKind",
    "Reserved",
    "Supplies",
    "Threshold",
    "TooFew",
    "Tracking",
    "average_after",
    "book",
    "check_tracking",
    "check_way",
    "gtin",
    "may_move",
    "needs_second",
    "proposed",
    "reserve",
    "sample",
    "sums",
    "total_worth",
    "touched",
    "value",
    "wanted",
    "where_serials_lie",
]

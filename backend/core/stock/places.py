"""Places where parts lie, and which ways movements may go between them."""

from collections.abc import Mapping
from enum import StrEnum


class PlaceKind(StrEnum):
    """What a stock place is. `ASIDE` holds what is defective until its supplier takes it back; `DIFFERENCE` is where a
    count finds what is too many, and puts what is missing."""

    DEPOT = "depot"
    VAN = "van"
    SITE = "customer site"
    TRANSIT = "in transit"
    ASIDE = "set aside"
    SUPPLIER = "supplier"
    SCRAP = "scrap"
    DIFFERENCE = "count difference"


# What lies there is counted; the others are where parts come from and go to for good. What is built in at a customer's
# is followed piece by piece, but nobody ever counted all of it: an old part comes back that never was on the books.
COUNTED = frozenset({PlaceKind.DEPOT, PlaceKind.VAN, PlaceKind.TRANSIT, PlaceKind.ASIDE})
# From here parts are taken for work.
USABLE = frozenset({PlaceKind.DEPOT, PlaceKind.VAN})


class MoveReason(StrEnum):
    """Why parts move."""

    RECEIPT = "receipt"
    TRANSFER = "transfer"
    USE = "use"
    RETURN = "return"
    COUNT = "count"
    SCRAP = "scrap"
    LOAN = "loan"
    DEFECT = "defect"


_D, _V, _S = PlaceKind.DEPOT, PlaceKind.VAN, PlaceKind.SITE
_ASIDE, _SUPPLIER, _TRANSIT = PlaceKind.ASIDE, PlaceKind.SUPPLIER, PlaceKind.TRANSIT
_OWN = {_D, _V, _TRANSIT}
_Ways = tuple[tuple[frozenset[PlaceKind], frozenset[PlaceKind]], ...]


def _ways(*pairs: tuple[set[PlaceKind], set[PlaceKind]]) -> _Ways:
    return tuple((frozenset(source), frozenset(target)) for source, target in pairs)


WAYS: Mapping[MoveReason, _Ways] = {
    MoveReason.RECEIPT: _ways(({_SUPPLIER}, {_D, _V, _S, _TRANSIT})),
    MoveReason.TRANSFER: _ways((_OWN, _OWN)),
    MoveReason.USE: _ways(({_D, _V}, {_S})),
    MoveReason.RETURN: _ways(({_S}, {_D, _V}), ({_D, _V}, {_SUPPLIER})),
    MoveReason.COUNT: _ways(
        ({PlaceKind.DIFFERENCE}, set(COUNTED)),
        (set(COUNTED), {PlaceKind.DIFFERENCE}),
    ),
    MoveReason.SCRAP: _ways(({*COUNTED, _S}, {PlaceKind.SCRAP})),
    MoveReason.LOAN: _ways(({_D, _V}, {_S, _V}), ({_S, _V}, {_D, _V})),
    MoveReason.DEFECT: _ways(({_S, _D, _V}, {_ASIDE}), ({_ASIDE}, {_SUPPLIER})),
}  # fmt: skip


def may_move(reason: MoveReason, source: PlaceKind, target: PlaceKind) -> bool:
    """Whether parts may go that way for that reason."""
    return any(source in sources and target in targets for sources, targets in WAYS[reason])

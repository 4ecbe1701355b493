"""Movements of parts between places: what is there is their sum, and nothing else."""

from collections import Counter
from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from core.stock.parts import Tracking
from core.stock.places import COUNTED, MoveReason, PlaceKind, may_move

# So many of a part at once are a slip of the hand.
MOST = 100_000
Key = tuple[int, int]  # place, part


@dataclass(frozen=True, kw_only=True)
class Move:
    """So many of a part from one place to another, and why. Places and parts are ids.

    `serials` names each piece of a part with serial numbers; `batch` the batch of one that is kept by batch.

    Raises
    ------
    ValueError
        When it cannot be, with a sentence.
    """

    part: int
    quantity: int
    source: int
    target: int
    reason: MoveReason
    serials: tuple[str, ...] = ()
    batch: str = ""

    def __post_init__(self) -> None:
        if not 1 <= self.quantity <= MOST:
            raise ValueError(f"A quantity is 1 to {MOST:,}.")
        if self.source == self.target:
            raise ValueError("It lies there already: choose another place.")
        if len(set(self.serials)) < len(self.serials):
            raise ValueError("A serial number is there twice.")


class TooFew(Exception):
    """There is less of a part at a place than is to be taken from it."""

    def __init__(self, *, place: int, part: int, has: int, wanted: int) -> None:
        super().__init__(f"{wanted} wanted, {has} there")
        self.place, self.part, self.has, self.wanted = place, part, has, wanted


def check_way(move: Move, source: PlaceKind, target: PlaceKind) -> None:
    """Parts go only certain ways for a reason.

    Raises
    ------
    ValueError
    """
    if not may_move(move.reason, source, target):
        raise ValueError(f"A {move.reason.value} does not go from a {source.value} to a {target.value}.")


def check_tracking(move: Move, tracking: Tracking) -> None:
    """Each piece of a part with serial numbers is named; of a part kept by batch the batch is said.

    Raises
    ------
    ValueError
    """
    if tracking is Tracking.SERIAL and len(move.serials) != move.quantity:
        raise ValueError(f"{move.quantity} serial numbers are needed, {len(move.serials)} are given.")
    if tracking is Tracking.BATCH and not move.batch:
        raise ValueError("Say which batch.")
    if tracking is not Tracking.SERIAL and move.serials:
        raise ValueError("This part has no serial numbers.")
    if tracking is Tracking.PLAIN and move.batch:
        raise ValueError("This part is not kept by batch.")


def touched(moves: Iterable[Move], kinds: Mapping[int, PlaceKind]) -> list[Key]:
    """The levels that moves change, in the one order in which they are locked: by place, then by part."""
    keys = {(place, move.part) for move in moves for place in (move.source, move.target)}
    return sorted(key for key in keys if kinds[key[0]] in COUNTED)


def book(
    levels: Mapping[Key, int], moves: Iterable[Move], kinds: Mapping[int, PlaceKind], *, below_zero: bool = False
) -> dict[Key, int]:
    """The levels after moves, one after the other; places that are not counted have none.

    Parameters
    ----------
    levels
        Of the places and parts that the moves touch; one that is not there is 0.
    below_zero
        Whether more may be taken than is there.

    Raises
    ------
    TooFew
        When a level would go below zero, or further below.
    """
    after = dict(levels)
    for move in moves:
        if kinds[move.source] in COUNTED:
            key = (move.source, move.part)
            has = after.get(key, 0)
            if has < move.quantity and not below_zero:
                raise TooFew(place=move.source, part=move.part, has=has, wanted=move.quantity)
            after[key] = has - move.quantity
        if kinds[move.target] in COUNTED:
            key = (move.target, move.part)
            after[key] = after.get(key, 0) + move.quantity
    return after


def sums(moves: Iterable[Move], kinds: Mapping[int, PlaceKind]) -> dict[Key, int]:
    """What lies where by the movements alone: what levels must be equal to. Nothing of what is nothing."""
    found: Counter[Key] = Counter()
    for move in moves:
        found[move.source, move.part] -= move.quantity
        found[move.target, move.part] += move.quantity
    return {key: number for key, number in found.items() if number and kinds[key[0]] in COUNTED}


def where_serials_lie(moves: Iterable[Move]) -> dict[tuple[int, str], int]:
    """The place of each piece by part and serial number, as moves in their order leave it."""
    return {(move.part, serial): move.target for move in moves for serial in move.serials}

"""Levels are the sum of movements, never below zero; a piece is in one place at a time."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from core.stock import (
    COUNTED,
    Move,
    MoveReason,
    PlaceKind,
    TooFew,
    Tracking,
    book,
    check_tracking,
    check_way,
    may_move,
    sums,
    touched,
    where_serials_lie,
)

DEPOT, VAN, OTHER_VAN, SUPPLIER, SITE, SCRAP = 1, 2, 3, 4, 5, 6
KINDS = {
    DEPOT: PlaceKind.DEPOT, VAN: PlaceKind.VAN, OTHER_VAN: PlaceKind.VAN, SUPPLIER: PlaceKind.SUPPLIER,
    SITE: PlaceKind.SITE, SCRAP: PlaceKind.SCRAP,
}  # fmt: skip
REASONS = {
    (SUPPLIER, DEPOT): MoveReason.RECEIPT, (DEPOT, VAN): MoveReason.TRANSFER, (VAN, OTHER_VAN): MoveReason.TRANSFER,
    (OTHER_VAN, DEPOT): MoveReason.TRANSFER, (VAN, SITE): MoveReason.USE, (OTHER_VAN, SITE): MoveReason.USE,
    (SITE, VAN): MoveReason.RETURN, (VAN, SCRAP): MoveReason.SCRAP,
}  # fmt: skip


def move(source=DEPOT, target=VAN, quantity=1, part=7, **more):
    more.setdefault("reason", REASONS.get((source, target), MoveReason.TRANSFER))
    return Move(part=part, quantity=quantity, source=source, target=target, **more)


moves = st.builds(
    lambda way, quantity, part: move(*way, quantity, part),
    st.sampled_from(sorted(REASONS)), st.integers(1, 20), st.integers(7, 9),
)  # fmt: skip


def booked(levels, one):
    """The levels after a move, and whether it was refused for want of parts."""
    try:
        return book(levels, [one], KINDS), None
    except TooFew as few:
        return levels, few


@given(st.lists(moves, max_size=60))
def test_whatever_moves_a_level_is_the_sum_and_never_below_zero(wanted):
    levels, done = {}, []
    for one in wanted:
        levels, few = booked(levels, one)
        if few is None:
            done.append(one)
        else:
            assert few.has == levels.get((few.place, few.part), 0) < few.wanted
    assert min(levels.values(), default=0) >= 0
    assert {key: number for key, number in levels.items() if number} == sums(done, KINDS)


@given(st.lists(moves, max_size=30))
def test_where_the_company_allows_it_nothing_is_refused_and_the_law_still_holds(wanted):
    levels = book({}, wanted, KINDS, below_zero=True)
    assert {key: number for key, number in levels.items() if number} == sums(wanted, KINDS)


@given(st.lists(moves, max_size=30))
def test_levels_are_locked_in_one_order_and_only_where_something_is_counted(wanted):
    keys = touched(wanted, KINDS)
    assert keys == sorted(set(keys))
    assert all(KINDS[place] in COUNTED for place, _part in keys)


def test_moves_that_are_booked_together_see_each_other():
    levels = book({(DEPOT, 7): 2}, [move(quantity=2), move(VAN, SITE, 2)], KINDS)
    assert levels == {(DEPOT, 7): 0, (VAN, 7): 0}
    with pytest.raises(TooFew):
        book({(DEPOT, 7): 2}, [move(quantity=2), move(VAN, SITE, 3)], KINDS)


def test_a_piece_lies_where_it_was_moved_last():
    way = [move(SUPPLIER, DEPOT, 2, serials=("A", "B")), move(serials=("A",)), move(VAN, SITE, serials=("A",))]
    assert where_serials_lie(way) == {(7, "A"): SITE, (7, "B"): DEPOT}


@pytest.mark.parametrize(
    ("wrong", "says"),
    [
        ({"quantity": 0}, "1 to"),
        ({"quantity": 100_001}, "1 to"),
        ({"target": DEPOT}, "already"),
        ({"quantity": 2, "serials": ("A", "A")}, "twice"),
    ],
)
def test_what_cannot_be_moved_is_refused_in_words(wrong, says):
    with pytest.raises(ValueError, match=says):
        move(**wrong)


def test_parts_go_only_certain_ways_for_a_reason():
    with pytest.raises(ValueError, match="A use does not go from a depot to a van"):
        check_way(move(reason=MoveReason.USE), PlaceKind.DEPOT, PlaceKind.VAN)
    check_way(move(), PlaceKind.DEPOT, PlaceKind.VAN)
    assert may_move(MoveReason.COUNT, PlaceKind.DIFFERENCE, PlaceKind.VAN)
    assert not may_move(MoveReason.COUNT, PlaceKind.SUPPLIER, PlaceKind.VAN)


@pytest.mark.parametrize(
    ("tracking", "more", "says"),
    [
        (Tracking.SERIAL, {"quantity": 2, "serials": ("A",)}, "2 serial numbers are needed, 1 are given"),
        (Tracking.BATCH, {}, "which batch"),
        (Tracking.PLAIN, {"serials": ("A",)}, "no serial numbers"),
        (Tracking.PLAIN, {"batch": "7"}, "not kept by batch"),
    ],
)
def test_pieces_are_named_as_their_part_asks(tracking, more, says):
    with pytest.raises(ValueError, match=says):
        check_tracking(move(**more), tracking)

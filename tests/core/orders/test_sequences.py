"""Sequences: rings and links the wrong way round are refused, in words."""

import pytest

from core.orders.links import Link, LinkKind
from core.orders.sequences import Linked, link_problem, parts_from

HOUR = 3600
VISITS = {n: Linked(label=f"W-7/{n}", seconds=HOUR) for n in (1, 2, 3)}


def after(first, second, least=0):
    return Link(kind=LinkKind.AFTER, first=first, second=second, least=least)


def test_a_ring_is_refused_with_its_way():
    says = link_problem(after(3, 1), VISITS, [after(1, 2), after(2, 3)])
    assert says == "That closes a ring: W-7/1, W-7/2, W-7/3, W-7/1. Each would wait for the other"


def test_a_ring_by_way_of_starting_together_is_one_too():
    together = Link(kind=LinkKind.TOGETHER, first=2, second=3)
    assert "ring" in (link_problem(after(3, 1), VISITS, [after(1, 2), together]) or "")


def test_the_same_tie_twice_is_refused_and_another_kind_is_not():
    assert "tied like that already" in (link_problem(after(1, 2), VISITS, [after(1, 2)]) or "")
    hands = Link(kind=LinkKind.SAME_TECHNICIAN, first=2, second=1)
    assert link_problem(hands, VISITS, [after(1, 2)]) is None
    back = Link(kind=LinkKind.SAME_TECHNICIAN, first=1, second=2)
    assert "tied like that already" in (link_problem(back, VISITS, [hands]) or "")


@pytest.mark.parametrize(
    ("one", "two", "least", "wrong"),
    [
        (Linked(label="a", seconds=HOUR, earliest=9 * HOUR), Linked(label="b", latest=10 * HOUR), 0, False),
        (Linked(label="a", seconds=HOUR, earliest=9 * HOUR), Linked(label="b", latest=10 * HOUR), 1, True),
        (Linked(label="a", seconds=HOUR, start=9 * HOUR), Linked(label="b", start=8 * HOUR), 0, True),
        (Linked(label="a"), Linked(label="b", begun=True), 0, True),
        (Linked(label="a", begun=True, over=True), Linked(label="b", begun=True), 0, False),
        (Linked(label="a"), Linked(label="b", begun=True, over=True), 0, True),
        (Linked(label="a"), Linked(label="b"), 0, False),
    ],
)
def test_a_link_the_wrong_way_round_is_refused(one, two, least, wrong):
    says = link_problem(after(1, 2, least), {1: one, 2: two}, [])
    assert (says is not None) == wrong
    if wrong:
        assert says.endswith("the link is the wrong way round")


def test_what_cannot_start_together_is_refused():
    early, late = Linked(label="a", latest=HOUR), Linked(label="b", earliest=2 * HOUR)
    link = Link(kind=LinkKind.TOGETHER, first=1, second=2)
    assert "cannot start together" in (link_problem(link, {1: early, 2: late}, []) or "")


@pytest.mark.parametrize(
    ("rows", "says"),
    [
        ([{"title": ""}], "needs a title"),
        ([{"title": "x", "crew": 9}], "1 to 8"),
        ([{"title": "x", "ties": [{"kind": "after", "to": 2}]}], "a visit before it"),
        ([{"title": "x", "ties": [{"kind": "after", "to": 1, "least": 9, "greatest": 3}]}], "greatest gap"),
        ([{"title": "x"}] * 31, "at most 30"),
    ],
)
def test_parts_that_cannot_be_are_refused(rows, says):
    with pytest.raises(ValueError, match=says):
        parts_from(rows)

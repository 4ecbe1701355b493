"""Roles put together from the actions."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from core.roles import ALLOWED, COMPOSABLE, NEEDS, Action, Reach, Role, composed

SETS = st.sets(st.sampled_from(COMPOSABLE))


@given(SETS)
def test_what_is_ticked_brings_all_it_needs_and_nothing_else(ticked):
    made = composed(ticked)
    assert ticked <= made
    assert Action.USE in made
    assert all(NEEDS.get(action, frozenset()) <= made for action in made)
    assert composed(made - {Action.USE}) == made
    brought = made - ticked - {Action.USE}
    assert all(any(action in NEEDS.get(other, ()) for other in made) for action in brought)


@given(SETS, SETS)
def test_who_ticks_more_may_never_do_less(some, more):
    assert composed(some) <= composed(some | more)


def test_nobody_is_given_the_accounts():
    with pytest.raises(ValueError, match="manage_accounts"):
        composed([Action.PLAN, Action.MANAGE_ACCOUNTS])


@pytest.mark.parametrize("role", [role for role in ALLOWED if role is not Role.ADMINISTRATOR])
def test_the_roles_that_come_along_could_be_put_together_too(role):
    assert composed(ALLOWED[role] - {Action.USE}) == ALLOWED[role]


def test_without_areas_or_depots_everything_is_in_reach():
    assert Reach().area(None)
    assert Reach().depot(3)
    assert Reach().goes_to([])
    assert not Reach().is_narrow


def test_who_is_narrowed_reaches_nothing_outside():
    narrow = Reach(areas=frozenset({1}), depots=frozenset({7}))
    assert narrow.is_narrow
    assert (narrow.area(1), narrow.area(2), narrow.area(None)) == (True, False, False)
    assert (narrow.depot(7), narrow.depot(8), narrow.depot(None)) == (True, False, False)


def test_a_technician_reaches_what_they_go_to():
    assert Reach(technician=4).goes_to((9, 4))
    assert not Reach(technician=4).goes_to((9, None))
    assert not Reach(technician=0).goes_to((9, None)), "nobody's account reaches nothing"

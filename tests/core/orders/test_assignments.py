"""What each of those who go to a visit may do themselves."""

import pytest

from core.orders import Part, Step, VisitState, own_steps, steps_from
from core.roles import ALLOWED, Role

MATE = Part(leads=False)


@pytest.mark.parametrize("state", list(VisitState))
def test_whoever_leads_may_do_what_the_table_says(state):
    assert set(own_steps(state, Part(leads=True))) == set(steps_from(state, ALLOWED[Role.TECHNICIAN]))


@pytest.mark.parametrize(
    ("state", "first"),
    [("sent", "accept"), ("accepted", "depart"), ("en_route", "arrive"), ("on_site", "finish"), ("on_hold", "resume")],
)
def test_the_next_thing_comes_first(state, first):
    assert own_steps(VisitState(state), Part(leads=True))[0] == first


@pytest.mark.parametrize(
    ("part", "steps"),
    [
        (MATE, ["accept", "decline"]),
        (Part(leads=False, accepted=True), ["depart", "arrive", "decline"]),
        (Part(leads=False, accepted=True, departed=True), ["arrive"]),
        (Part(leads=False, accepted=True, arrived=True), ["finish"]),
        (Part(leads=False, accepted=True, arrived=True, finished=True), []),
    ],
)
def test_who_goes_along_goes_their_own_way(part, steps):
    assert own_steps(VisitState.ACCEPTED, part) == steps


def test_once_it_has_begun_nobody_gives_it_back():
    assert own_steps(VisitState.ON_SITE, MATE) == [Step.ACCEPT]


@pytest.mark.parametrize("state", ["open", "placed", "done", "reviewed", "missed", "cancelled"])
def test_before_it_is_sent_and_after_it_is_over_there_is_nothing_to_do(state):
    assert own_steps(VisitState(state), Part(leads=False, accepted=True)) == []

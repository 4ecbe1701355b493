"""The table of visit states."""

import pytest

from core.orders import OrderState, Step, VisitState, order_state, steps_from, transition
from core.orders.states import TABLE
from core.roles import ALLOWED, Role

S = VisitState


def test_the_way_of_a_visit_from_open_to_done():
    way = [
        (Step.PLACE, S.OPEN, S.PLACED),
        (Step.SEND, S.PLACED, S.SENT),
        (Step.ACCEPT, S.SENT, S.ACCEPTED),
        (Step.DEPART, S.ACCEPTED, S.EN_ROUTE),
        (Step.ARRIVE, S.EN_ROUTE, S.ON_SITE),
        (Step.HOLD, S.ON_SITE, S.ON_HOLD),
        (Step.RESUME, S.ON_HOLD, S.ON_SITE),
        (Step.FINISH, S.ON_SITE, S.DONE),
        (Step.REVIEW, S.DONE, S.REVIEWED),
    ]
    for step, source, target in way:
        row = transition(step)
        assert source in row.sources
        assert row.target is target


def test_every_step_has_one_row():
    assert sorted(row.step for row in TABLE) == sorted(Step)


@pytest.mark.parametrize("state", [S.EN_ROUTE, S.ON_SITE, S.ON_HOLD, S.DONE, S.REVIEWED, S.CANCELLED])
def test_what_is_under_way_or_over_cannot_be_moved(state):
    assert Step.PLACE not in steps_from(state, ALLOWED[Role.DISPATCHER])
    assert Step.UNPLACE not in steps_from(state, ALLOWED[Role.DISPATCHER])


def test_a_technician_accepts_or_declines_what_was_sent_and_plans_nothing():
    assert steps_from(S.SENT, ALLOWED[Role.TECHNICIAN]) == [Step.ACCEPT, Step.DECLINE]
    assert steps_from(S.PLACED, ALLOWED[Role.TECHNICIAN]) == []


def test_intake_takes_no_step_on_a_visit():
    assert all(steps_from(state, ALLOWED[Role.INTAKE]) == [] for state in S)


def test_declining_needs_a_reason_and_opens_the_visit_again():
    row = transition(Step.DECLINE)
    assert row.needs_note
    assert row.target is S.OPEN


@pytest.mark.parametrize(
    ("states", "expected"),
    [
        ([], OrderState.DRAFT),
        ([S.OPEN], OrderState.OPEN),
        ([S.PLACED, S.SENT], OrderState.PLANNED),
        ([S.PLACED, S.OPEN], OrderState.OPEN),
        ([S.DONE, S.PLACED], OrderState.UNDER_WAY),
        ([S.ON_HOLD], OrderState.UNDER_WAY),
        ([S.DONE, S.CANCELLED], OrderState.DONE),
        ([S.DONE, S.REVIEWED], OrderState.DONE),
        ([S.REVIEWED], OrderState.REVIEWED),
        ([S.CANCELLED, S.CANCELLED], OrderState.CANCELLED),
        ([S.MISSED], OrderState.OPEN),
    ],
)
def test_the_state_of_an_order_follows_from_its_visits(states, expected):
    assert order_state(states) is expected

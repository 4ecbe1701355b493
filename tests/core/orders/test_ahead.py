"""What a phone is told ahead is what the server would have said after each step."""

from itertools import product

import pytest

from core.orders import Part, Step, VisitState, own_steps, transition, what_follows

PARTS = [
    Part(leads=leads, accepted=accepted, departed=departed, arrived=arrived, finished=finished)
    for leads, accepted, departed, arrived, finished in product([True, False], repeat=5)
]


@pytest.mark.parametrize("state", list(VisitState))
@pytest.mark.parametrize("part", PARTS, ids=str)
def test_each_stand_offers_what_would_be_offered_there(state, part):
    stands = what_follows(state, part)
    assert [step for step, _to in stands[0].steps] == own_steps(state, part)
    for stand in stands:
        for step, to in stand.steps:
            if part.leads:
                assert stands[to].state == transition(step).target
                assert [one for one, _to in stands[to].steps] == own_steps(stands[to].state, part)


def test_a_whole_visit_is_walked_without_asking_anybody():
    stands, at = what_follows(VisitState.SENT, Part(leads=True)), 0
    for step in (Step.ACCEPT, Step.DEPART, Step.ARRIVE, Step.HOLD, Step.RESUME, Step.FINISH):
        at = dict(stands[at].steps)[step]
    assert stands[at].state is VisitState.DONE
    assert stands[at].steps == ()


def test_who_goes_along_moves_only_themselves_and_declining_ends_it():
    stands = what_follows(VisitState.ACCEPTED, Part(leads=False, accepted=True))
    arrived = stands[dict(stands[0].steps)[Step.ARRIVE]]
    assert (arrived.state, [step for step, _to in arrived.steps]) == (VisitState.ACCEPTED, [Step.FINISH])
    declined = stands[dict(stands[0].steps)[Step.DECLINE]]
    assert (declined.state, declined.steps) == (VisitState.OPEN, ())

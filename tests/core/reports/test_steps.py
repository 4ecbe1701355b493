"""Steps of the work: what a job type may compose, what is next, and what stands in the way of finishing."""

import json
from pathlib import Path

import pytest

from core.reports import (
    DEFAULT,
    KINDS,
    WAY,
    Acceptance,
    Ended,
    Facts,
    WorkStep,
    in_the_way,
    next_of,
    standings,
    steps_from,
)  # fmt: skip

# The phone's own tests read the same file: without a signal it must say what the office would.
CASES = json.loads((Path(__file__).parent / "steps.json").read_text())


def as_stored(rows):
    return [
        {"kind": row.kind, "must": row.must, "done": row.done, "missing": list(row.missing)} for row in rows
    ]  # fmt: skip


@pytest.mark.parametrize("case", CASES)
def test_phone_and_office_answer_alike(case):
    rows = standings(steps_from(case["steps"]), Facts(**case["facts"]))
    found = next_of(rows)
    assert as_stored(rows) == case["standings"]
    assert (found.kind if found else None) == case["next"]
    assert [row.kind for row in in_the_way(rows)] == case["in_the_way"]


def test_the_cases_take_every_step_both_ways():
    seen = {(row["kind"], row["done"]) for case in CASES for row in case["standings"]}
    assert seen >= {(kind, done) for kind in KINDS for done in (True, False)}


def test_the_way_is_what_is_next_where_nothing_else_must_be():
    states = {"accepted": "depart", "en_route": "arrive", "on_site": "finish", "on_hold": "finish", "done": None}
    for state, wanted in states.items():
        found = next_of(standings(DEFAULT, Facts(state=state, tasks=2, tasks_open=["Grease it"])))
        assert (found.kind if found else None) == wanted


def test_what_must_be_done_comes_before_finishing_and_is_named():
    steps = steps_from([{"kind": "depart"}, {"kind": "arrive"}, {"kind": "tasks", "must": True}, {"kind": "finish"}])
    rows = standings(steps, Facts(state="on_site", tasks=2, tasks_open=["Grease it"]))
    assert next_of(rows) == in_the_way(rows)[0]
    assert in_the_way(rows)[0].missing == ("Grease it",)
    assert in_the_way(standings(steps, Facts(state="on_site", tasks=2))) == ()


def test_a_step_with_nothing_to_it_is_not_there():
    kinds = [row.kind for row in standings(DEFAULT, Facts(state="sent"))]
    assert "tasks" not in kinds
    assert "form" not in kinds


def step(kind):
    return {"kind": kind}


@pytest.mark.parametrize(
    ("kinds", "words"),
    [
        (["depart", "arrive", "swim", "finish"], "no step"),
        (["depart", "arrive", "tasks", "tasks", "finish"], "twice"),
        (["arrive", "depart", "finish"], "always there"),
        (["depart", "arrive"], "always there"),
        (["depart", "arrive", "finish", "photos"], "the last"),
    ],
)
def test_what_cannot_be_composed_says_why(kinds, words):
    with pytest.raises(ValueError, match=words):
        steps_from([step(kind) for kind in kinds])


def test_the_way_must_always_be_taken():
    assert all(row.must for row in steps_from([step(kind) for kind in WAY]))
    assert steps_from([]) == DEFAULT
    assert WorkStep(kind="photos") in DEFAULT


def test_an_acceptance_needs_a_name_or_a_reason():
    assert Acceptance(ended=Ended.SIGNED, name="Jonas Radley", rating=5).rating == 5
    with pytest.raises(ValueError, match="Who signed"):
        Acceptance(ended=Ended.SIGNED, name=" ")
    with pytest.raises(ValueError, match="why"):
        Acceptance(ended=Ended.ABSENT)
    with pytest.raises(ValueError, match="1 to 5"):
        Acceptance(ended=Ended.SIGNED, name="x", rating=6)

"""One count of broken limits: what the board says, what a proposal says before, and what comes of it after."""

import pytest

from apps.orders.models import VisitLink
from apps.people.models import Absence
from foundation.moments import to_datetime
from tests.apps.conftest import MONDAY, at
from tests.apps.scheduling.test_runs import a_run, accept

pytestmark = pytest.mark.django_db


def on_the_board(api, day=MONDAY, **query):
    return api.get("/board", day=day.isoformat(), **query).json()["findings"]


def test_a_crew_and_a_visit_broken_twice_are_counted_by_limit(world, dispatcher):
    late = world.placed(14, promise_start=to_datetime(at(9)), promise_end=to_datetime(at(11)), needs={"welding": 3})
    found = on_the_board(dispatcher)
    assert {(row["limit"], row["visit_id"]) for row in found} == {("promise", late.pk), ("skill", late.pk)}
    assert len({row["key"] for row in found}) == 2


def test_a_crew_that_is_late_is_told_once_and_one_that_is_too_small_is_told(world, dispatcher):
    crew = world.placed(
        14, crew=3, mates=[world.ivor.pk], promise_start=to_datetime(at(9)), promise_end=to_datetime(at(11))
    )
    found = on_the_board(dispatcher)
    assert sorted((row["limit"], row["visit_id"]) for row in found) == [("crew", crew.pk), ("promise", crew.pk)]


def test_the_proposal_counts_before_what_the_board_counts_and_after_what_it_will(world, dispatcher):
    Absence.objects.create(technician=world.ines, start=to_datetime(at(0)), end=to_datetime(at(23)), reason="sick")
    world.placed(9, technician=world.ines, promise_start=to_datetime(at(9)), promise_end=to_datetime(at(11)))
    world.placed(15, technician=world.ivor, due=to_datetime(at(14)))
    before = on_the_board(dispatcher)
    run = a_run(dispatcher, kind="repair")
    assert before
    assert run["proposal"]["broken_before"] == len(before)
    assert accept(dispatcher, run).status_code == 200
    after = on_the_board(dispatcher)
    assert len(run["proposal"]["broken_after"]) == len(after)
    for row in after:
        assert any(row["sentence"] in told for told in run["proposal"]["broken_after"])


def test_a_link_between_two_parts_of_the_board_is_judged_as_on_the_whole_of_it(world, dispatcher):
    """The first visit has slipped: whoever looks at the second one's line alone sees it as well."""
    world.placed(8, technician=world.ines, duration_seconds=4 * 3600)
    first = world.placed(9, technician=world.ines)
    second = world.placed(11, technician=world.ivor)
    VisitLink.objects.create(first=first, second=second, kind="after")
    whole = on_the_board(dispatcher)
    part = on_the_board(dispatcher, technicians=str(world.ivor.pk))
    tied = [row for row in whole if row["limit"] == "link"]
    assert tied
    assert [row for row in part if row["limit"] == "link"] == tied

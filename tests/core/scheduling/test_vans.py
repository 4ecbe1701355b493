"""Parts on a van: what a visit finds once those before it have taken theirs. Every drive is ten minutes."""

from dataclasses import replace

import pytest

from core.scheduling import (
    Actual,
    Limit,
    Load,
    Playbook,
    Problem,
    Setting,
    TechnicianSpec,
    evaluate,
    evaluate_day,
    judge,
)
from core.scheduling.model.aims import Aim
from core.scheduling.model.problem import Plan
from tests.core.worlds import HOUR, TableTravel, at, day, shift, stop

TWO = {"roller": 2}


def with_van(**van):
    return TechnicianSpec(id=1, name="Ines Falk", skills={}, load=None if van is None else Load(van=van))


def missing(of_day):
    """Sentences about parts by visit."""
    found = evaluate_day(of_day, TableTravel()).broken
    return {row.visit_id: row.sentence for row in found if row.limit is Limit.PARTS}


@pytest.mark.parametrize(
    ("there", "says"),
    [
        (0, "2 × roller needed, 0 on the van of Ines Falk"),
        (1, "2 × roller needed, 1 on the van of Ines Falk"),
        (2, None),
        (9, None),
    ],
)
def test_a_visit_alone_needs_all_its_parts(there, says):
    found = missing(day(stop(7, at(10), parts=TWO), technician=with_van(roller=there)))
    assert found.get(7) == says


def test_a_part_that_is_not_on_the_list_is_not_there():
    found = missing(day(stop(7, at(10), parts={"lamp": 1}), technician=with_van(roller=5)))
    assert found == {7: "1 × lamp needed, 0 on the van of Ines Falk"}


def test_a_van_that_nobody_counts_is_trusted():
    nobody = replace(with_van(), load=None)
    assert missing(day(stop(7, at(10), parts=TWO), technician=nobody)) == {}


def test_those_before_take_theirs_first_and_only_who_falls_short_says_so():
    stops = (stop(7, at(9), parts=TWO), stop(8, at(11), parts=TWO), stop(9, at(13), parts={"roller": 1}))
    assert missing(day(*stops, technician=with_van(roller=3))) == {
        8: "2 × roller needed, 3 on the van of Ines Falk, 2 of them for visits before it",
        9: "1 × roller needed, 3 on the van of Ines Falk, 3 of them for visits before it",
    }
    assert missing(day(*stops, technician=with_van(roller=5))) == {}


def test_the_order_of_the_day_decides_who_goes_without():
    van = with_van(roller=2)
    early, late = stop(7, at(9), parts=TWO), stop(8, at(13), parts=TWO)
    assert set(missing(day(early, late, technician=van))) == {8}
    assert set(missing(day(replace(early, start=at(15)), late, technician=van))) == {7}


def test_what_is_finished_takes_nothing_any_more():
    done = stop(7, at(9), parts=TWO, actual=Actual(departed=at(8, 50), arrived=at(9), finished=at(10)))
    on_site = stop(7, at(9), parts=TWO, actual=Actual(departed=at(8, 50), arrived=at(9)))
    late = stop(8, at(13), parts=TWO)
    assert (done.takes("roller"), on_site.takes("roller"), late.takes("lamp")) == (0, 2, 0)
    assert missing(day(done, late, technician=with_van(roller=2))) == {}
    assert set(missing(day(on_site, late, technician=with_van(roller=2)))) == {8}


def test_a_placement_before_another_is_warned_of_and_names_its_price():
    late = stop(8, at(13), parts=TWO)
    verdict = judge(day(late, technician=with_van(roller=2)), stop(7, at(9), parts=TWO), TableTravel())
    assert verdict.allowed
    assert any("roller" in reason.sentence and "W-8" in reason.sentence for reason in verdict.reasons)
    held = judge(day(late, technician=with_van(roller=2)), stop(7, at(15), parts=TWO), TableTravel())
    assert any(reason.sentence.startswith("2 × roller needed") for reason in held.reasons)


# --- over several days ------------------------------------------------------------------------------------


def two_days(van, *, on=True):
    """Each with one visit that takes two rollers; the second a day after the first."""
    first = day(stop(7, at(9), parts=TWO), technician=van)
    hours = shift()
    second = replace(
        day(stop(8, at(9) + 24 * HOUR, parts=TWO), technician=van),
        shift=replace(hours, hours=replace(hours.hours, start=at(8) + 24 * HOUR, end=at(16) + 24 * HOUR)),
    )
    playbook = Playbook(name="parts", limits={Limit.PARTS: Setting(on=on)}, aims={Aim.SERVED: 1})
    return Problem(days=(first, second), backlog=(), playbook=playbook, travel=TableTravel())


def broken_parts(problem):
    found = evaluate(problem, Plan(stops=tuple(one.stops for one in problem.days))).broken
    return [(index, row.visit_id, row.sentence) for index, row in found if row.limit is Limit.PARTS]


def test_a_van_is_not_filled_up_between_days():
    assert broken_parts(two_days(with_van(roller=4))) == []
    assert broken_parts(two_days(with_van(roller=3))) == [
        (None, 8, "Ines Falk would use 4 × roller, 3 there to take along")
    ]


def test_what_one_day_lacks_by_itself_is_said_once():
    assert [(index, visit) for index, visit, _ in broken_parts(two_days(with_van(roller=1)))] == [(0, 7), (1, 8)]


def test_a_playbook_may_leave_the_parts_to_the_depot():
    assert broken_parts(two_days(with_van(roller=0), on=False)) == []

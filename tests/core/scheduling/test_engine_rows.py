"""How problems become numbers: who may do what is worked out once for visits that are alike."""

from dataclasses import fields, replace

import pytest

from core.basics import Interval
from core.scheduling import VisitSpec
from core.scheduling.engine import Model
from core.scheduling.engine import fields as f
from core.scheduling.engine.rows import _OF_THE_HOUR, fit_key
from core.scheduling.model.reasons import Code, why
from tests.core.scheduling.random_worlds import a_problem
from tests.core.worlds import HOUR, at

OTHER = {
    "id": 99_999, "label": "another", "place": 3, "promise": Interval(start=at(9), end=at(11)),
    "other_windows": (Interval(start=at(12), end=at(13)),), "opening": (Interval(start=at(7), end=at(18)),),
    "earliest": at(8), "due": at(17), "wanted_by": at(16), "late_from": at(15), "overdue": HOUR, "crew": 2,
    "priority": 5, "value": 700, "locked": True, "locked_because": why(Code.PINNED),
}  # fmt: skip


@pytest.mark.parametrize("name", sorted(_OF_THE_HOUR))
def test_what_is_left_out_of_the_key_says_nothing_about_who_may_go(name):
    for seed in range(20):
        problem = a_problem(seed)
        model = Model(problem)
        for task in model.tasks:
            if task.kept:
                continue
            other = replace(task.visit, **{name: OTHER[name]})
            assert fit_key(other, None) == fit_key(task.visit, None)
            for shift in model.shifts:
                before = model._rows._fit(task, shift.day)
                standing = problem.standing.get(task.visit.id)
                changed = replace(task, visit=other)
                if name != "id" or standing is None:
                    assert model._rows._fit(changed, shift.day) == before


def test_every_field_of_a_visit_is_either_in_the_key_or_known_to_be_of_the_hour():
    assert {field.name for field in fields(VisitSpec)} >= _OF_THE_HOUR
    assert set(OTHER) == _OF_THE_HOUR


def test_a_group_is_led_by_one_of_its_tasks_and_links_name_both_ends():
    linked = grouped = 0
    for seed in range(60):
        arrays = Model(a_problem(seed)).arrays
        for task in range(arrays.n):
            leader = int(arrays.tasks[task, f.LEADER])
            group = arrays.members[leader, : arrays.tasks[leader, f.MEMBERS]].tolist()
            assert task in group
            grouped += len(group) > 1
            for kind, other, least, greatest in arrays.links[task, : arrays.tasks[task, f.LINKS]].tolist():
                back = {f.FOLLOWS: f.LEADS, f.LEADS: f.FOLLOWS}.get(kind, kind)
                assert [back, task, least, greatest] in arrays.links[other, : arrays.tasks[other, f.LINKS]].tolist()
                linked += 1
    assert linked > 10
    assert grouped > 10

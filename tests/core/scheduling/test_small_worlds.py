"""Each limit and each aim in a world small enough to work out by hand: every drive is ten minutes."""

from dataclasses import replace

import pytest

from core.basics import Interval
from core.orders.links import Link, LinkKind
from core.scheduling import (
    KEEP_PROMISES,
    Actual,
    Aim,
    Limit,
    Load,
    Playbook,
    Problem,
    Setting,
    TechnicianSpec,
    evaluate,
)
from core.scheduling.engine import Budget, OpeningFinder, fill, improve, plan, repair, sequence
from core.scheduling.judgement.explaining import Hindrance
from core.scheduling.model.links import PART, check_links, over_days
from core.scheduling.model.playbook import LEAST_DRIVING
from core.scheduling.model.reasons import Code, why
from tests.core.worlds import HOUR, MINUTE, MONDAY, TableTravel, at, day, shift, stop, visit

BRIEF = Budget(iterations=200)
TUESDAY = MONDAY.replace(day=24)
DRIVING_ONLY = Playbook(name="driving", aims={Aim.SERVED: 1, Aim.DRIVING: 1})


def someone(number=1, **more):
    more.setdefault("skills", {"Door drives": 3})
    return TechnicianSpec(id=number, name=f"Technician {number}", **more)


def problem(*days, visits=(), playbook=DRIVING_ONLY, **more):
    more.setdefault("travel", TableTravel())
    return Problem(days=tuple(days), backlog=tuple(visits), playbook=playbook, **more)


def where(found, visit_id):
    return [index for index, _ in found.plan.where.get(visit_id, ())]


def starts(found, visit_id):
    return [stop_.start for _, stop_ in found.plan.where.get(visit_id, ())]


# --- limits ------------------------------------------------------------------------------------------

DAYS = (day(technician=someone(1)), day(technician=someone(2, skills={"Door drives": 5, "Rescue": 2})))


@pytest.mark.parametrize(
    ("asked", "days"),
    [
        ({"needs": {"Rescue": 2}}, DAYS),
        ({"needs": {"Door drives": 4}}, DAYS),
        ({"forbidden": frozenset({1})}, DAYS),
        ({"required": frozenset({2})}, DAYS),
        ({"area": "Hale"}, (day(technician=someone(1, areas=frozenset({"Millrace"}))), day(technician=someone(2)))),
        (
            {"certificates": frozenset({"Rigging"})},
            (
                day(technician=someone(1, certificates={"Rigging": at(7)})),
                day(technician=someone(2, certificates={"Rigging": at(9)})),
            ),
        ),
        (
            {"parts": {"spring": 2}},
            (day(technician=someone(1, load=Load(van={"spring": 1}))), day(technician=someone(2))),
        ),
        ({"minutes": 400}, (day(technician=someone(1), shift_=shift(8, 14)), day(technician=someone(2)))),
        (
            {"minutes": 300},
            (
                day(technician=someone(1), absences=(Interval(start=at(11), end=at(12)),)),
                day(technician=someone(2)),
            ),
        ),
        ({"minutes": 400}, (day(technician=someone(1), shift_=shift(rest=True)), day(technician=someone(2)))),
        ({"minutes": 475}, (day(technician=someone(1)), day(technician=someone(2), shift_=shift(overtime=30)))),
    ],
    ids=lambda value: ", ".join(value) if isinstance(value, dict) else "",
)
def test_a_limit_sends_the_visit_to_the_only_one_who_can(asked, days):
    for place in (1, 2):  # whoever is nearer
        travel = TableTravel(minutes={(0, place): 5})
        asked_for = problem(*days, visits=[visit(7, place=1, **asked)], travel=travel)
        found = plan(asked_for, budget=BRIEF)
        assert where(found, 7) == [1]
        assert evaluate(asked_for, found.plan).broken == ()


def test_the_promise_sets_the_start_and_any_of_its_windows_will_do():
    promise, other = Interval(start=at(14), end=at(15)), Interval(start=at(9), end=at(9, 30))
    assert starts(plan(problem(day(), visits=[visit(1, promise=promise)]), budget=BRIEF), 1) == [at(14)]
    either = plan(problem(day(), visits=[visit(1, promise=promise, other_windows=(other,))]), budget=BRIEF)
    assert starts(either, 1) == [at(9)]


def test_the_promise_may_be_loosened_by_some_minutes_or_turned_into_a_wish():
    ahead = day(stop(1, at(8, 10), minutes=115, locked=True))
    late = visit(2, promise=Interval(start=at(9), end=at(10)))
    assert where(plan(problem(ahead, visits=[late]), budget=BRIEF), 2) == []
    loosened = replace(DRIVING_ONLY, limits={Limit.PROMISE: Setting(number=15)})
    assert starts(plan(problem(ahead, visits=[late], playbook=loosened), budget=BRIEF), 2) == [at(10, 15)]
    wished = replace(DRIVING_ONLY, limits={Limit.PROMISE: Setting(on=False)})
    assert starts(plan(problem(ahead, visits=[late], playbook=wished), budget=BRIEF), 2) == [at(10, 15)]


def test_work_is_done_while_the_site_is_open():
    opening = (Interval(start=at(10), end=at(11)), Interval(start=at(13), end=at(16)))
    found = plan(problem(day(), visits=[visit(1, minutes=90, opening=opening)]), budget=BRIEF)
    assert starts(found, 1) == [at(13)]


def test_not_before_its_earliest_start_and_not_past_its_deadline_when_that_is_a_limit():
    found = plan(problem(day(), visits=[visit(1, earliest=at(12))]), budget=BRIEF)
    assert starts(found, 1) == [at(12)]
    strict = replace(DRIVING_ONLY, limits={Limit.DUE: Setting(on=True)})
    assert where(plan(problem(day(), visits=[visit(1, due=at(9))], playbook=strict), budget=BRIEF), 1) == []


def test_a_long_drive_between_two_visits_is_not_made():
    far = TableTravel(minutes={(1, 2): 50, (2, 1): 50}, default=10)
    short = replace(DRIVING_ONLY, limits={Limit.LONG_DRIVE: Setting(number=45)})
    visits = [visit(1), visit(2)]
    assert len(plan(problem(day(), visits=visits, travel=far, playbook=short), budget=BRIEF).plan.where) == 1
    assert len(plan(problem(day(), visits=visits, travel=far), budget=BRIEF).plan.where) == 2


def test_no_more_visits_than_the_limit_and_no_more_parts_than_the_van_has():
    visits = [visit(number, minutes=20) for number in (1, 2, 3)]
    two = replace(DRIVING_ONLY, limits={Limit.CAPACITY: Setting(number=2)})
    assert len(plan(problem(day(), visits=visits, playbook=two), budget=BRIEF).plan.where) == 2
    taking = [visit(number, minutes=20, parts={"spring": 1}) for number in (1, 2, 3)]
    van = day(technician=someone(1, load=Load(van={"spring": 1})))
    assert len(plan(problem(van, visits=taking), budget=BRIEF).plan.where) == 1


@pytest.mark.parametrize(("at_the_depot", "today", "tomorrow"), [(3, 1, 2), (0, 1, 0)])
def test_who_has_set_out_takes_from_the_depot_on_the_next_day_only(at_the_depot, today, tomorrow):
    van = Load(van={"spring": 1})
    monday = day(technician=someone(1, load=van))
    assert monday.shift is not None
    hours = Interval(start=at(8, day=TUESDAY), end=at(16, day=TUESDAY))
    filled = replace(van, depot="Northlock", free={"spring": at_the_depot})
    second = replace(monday, technician=someone(1, load=filled), shift=replace(monday.shift, hours=hours))
    taking = [visit(number, minutes=20, parts={"spring": 1}) for number in (1, 2, 3)]
    made = problem(monday, second, visits=taking)
    found = plan(made, budget=BRIEF).plan
    by_day = [len(stops) for stops in found.stops]
    assert by_day[0] <= today
    assert sum(by_day) == min(3, today + tomorrow)
    assert not evaluate(made, found).broken


def test_a_crew_starts_together_on_two_technicians():
    busy = day(stop(5, at(8, 10), locked=True), technician=someone(1))
    found = plan(problem(busy, day(technician=someone(2)), visits=[visit(7, crew=2)]), budget=BRIEF)
    assert where(found, 7) == [0, 1]
    assert starts(found, 7) == [at(9, 20), at(9, 20)]
    assert where(plan(problem(busy, visits=[visit(7, crew=2)]), budget=BRIEF), 7) == []


def test_after_keeps_its_gap_and_the_order_of_the_links():
    link = Link(kind=LinkKind.AFTER, first=2, second=1, least=HOUR, greatest=3 * HOUR)
    found = plan(problem(day(), visits=[visit(1), visit(2)], links=(link,)), budget=BRIEF)
    gap = starts(found, 1)[0] - (starts(found, 2)[0] + HOUR)
    assert HOUR <= gap <= 3 * HOUR


def test_together_and_same_technician():
    two = (day(technician=someone(1)), day(technician=someone(2)))
    together = Link(kind=LinkKind.TOGETHER, first=1, second=2)
    found = plan(problem(*two, visits=[visit(1), visit(2, earliest=at(11))], links=(together,)), budget=BRIEF)
    assert starts(found, 1) == starts(found, 2) == [at(11)]
    same = Link(kind=LinkKind.SAME_TECHNICIAN, first=1, second=2)
    visits = [visit(1, required=frozenset({2})), visit(2, minutes=30)]
    found = plan(problem(*two, visits=visits, links=(same,)), budget=BRIEF)
    assert where(found, 1) == where(found, 2) == [1]


def test_visits_that_wait_for_each_other_are_refused_by_name():
    ring = [Link(kind=LinkKind.AFTER, first=a, second=b) for a, b in ((1, 2), (2, 3), (3, 1))]
    with pytest.raises(ValueError, match="wait for each other: W-"):
        check_links(ring, {number: visit(number) for number in (1, 2, 3)})
    check_links(ring[:2], {})


def test_a_visit_of_several_days_goes_on_the_next_day_by_the_same_technician():
    parts, links = over_days(visit(7, minutes=13 * 60), day_seconds=7 * HOUR)
    assert [part.duration for part in parts] == [7 * HOUR, 6 * HOUR]
    days = []
    for number in (1, 2):
        monday = day(technician=someone(number))
        assert monday.shift is not None
        later = Interval(start=at(8, day=TUESDAY), end=at(16, day=TUESDAY))
        days += [monday, replace(monday, shift=replace(monday.shift, hours=later))]
    found = plan(problem(*days, visits=parts, links=links), budget=BRIEF)
    assert [where(found, 7), where(found, 7 + PART)] in ([[0], [1]], [[2], [3]])


# --- aims --------------------------------------------------------------------------------------------


def preferring(aim, weight=10.0):
    return Playbook(name="one aim", aims={Aim.SERVED: 1, Aim.DRIVING: 0.01, aim: weight})


TWO = (day(technician=someone(1)), day(technician=someone(2)))


FREE = day(technician=someone(2))


def rigger(number, **more):
    return day(technician=someone(number, skills={"Rigging": 2}, **more))


def busy(minutes):
    """Somebody who has a locked visit in the morning."""
    return day(stop(5, at(8, 10), locked=True, minutes=minutes), technician=someone(1))


LEVELS = tuple(day(technician=someone(number, skills={"Door drives": level})) for number, level in ((1, 5), (2, 1)))
LONG = (day(technician=someone(1), shift_=shift(overtime=60)), day(technician=someone(2), shift_=shift(8, 17)))


@pytest.mark.parametrize(
    ("aim", "asked", "days"),
    [
        (Aim.PREFERRED, {"preferred": frozenset({2})}, TWO),
        (Aim.SAME_TECHNICIAN, {"last_technician": 2}, TWO),
        (Aim.SKILL_WASTED, {"needs": {"Door drives": 1}}, LEVELS),
        (Aim.OVERTIME, {"minutes": 470}, LONG),
        (Aim.LATENESS, {"due": at(10)}, (busy(120), FREE)),
        (Aim.FAIRNESS, {}, (busy(200), FREE)),
        (Aim.WAITING, {"earliest": at(12)}, (busy(60), FREE)),
        (Aim.WISHES, {"needs": {"Rigging": 1}}, (rigger(1, avoids=frozenset({"Rigging"})), rigger(2))),
        (Aim.WISHES, {"needs": {"Rigging": 1}}, (rigger(1, likes=frozenset({"Saltmarsh"})), rigger(2))),
        (Aim.WISHES, {"area": "Millrace"}, (day(technician=someone(1, avoids=frozenset({"Millrace"}))), FREE)),
    ],
    ids=lambda value: value.value if isinstance(value, Aim) else "",
)
def test_an_aim_decides_between_two_who_could(aim, asked, days):
    found = plan(problem(*days, visits=[visit(7, **asked)], playbook=preferring(aim)), budget=BRIEF)
    assert where(found, 7) == [1]


def test_time_on_call_is_planned_for_urgent_work_only():
    on_call = day(stop(1, at(8), minutes=450, locked=True), shift_=shift(on_call=20))
    ordinary = plan(problem(on_call, visits=[visit(7, priority=2)]), budget=BRIEF)
    assert (where(ordinary, 7), len(ordinary.unserved)) == ([], 1)
    urgent = plan(problem(on_call, visits=[visit(7, priority=1)]), budget=BRIEF)
    assert (where(urgent, 7), starts(urgent, 7)) == ([0], [at(15, 50)])
    # On a day on call only, too; what is shared out fairly is that time.
    only = day(shift_=shift(8, 8, on_call=20))
    fair = Playbook(name="fair", aims={Aim.SERVED: 1, Aim.DRIVING: 1, Aim.FAIRNESS: 1})
    assert where(plan(problem(only, visits=[visit(7, priority=1)], playbook=fair), budget=BRIEF), 7) == [0]
    assert where(plan(problem(only, visits=[visit(7)], playbook=fair), budget=BRIEF), 7) == []
    # What somebody was called out for stays, and the evening around it stays free.
    called_out = day(stop(1, at(18), priority=1), shift_=shift(on_call=20))
    found = plan(problem(called_out, visits=[visit(7, minutes=450), visit(8, minutes=60)]), budget=BRIEF)
    assert len(found.unserved) == 1


def test_leaving_ones_area_costs_where_it_is_no_limit():
    days = (day(technician=someone(1, areas=frozenset({"Hale"}))), day(technician=someone(2)))
    book = replace(preferring(Aim.AREA_LEFT), limits={Limit.AREA: Setting(on=False)})
    assert where(plan(problem(*days, visits=[visit(7)], playbook=book), budget=BRIEF), 7) == [1]


def test_driving_and_distance():
    travel = TableTravel(minutes={(0, 7): 30, (7, 0): 30, (1, 7): 1, (7, 1): 1})
    near = day(stop(1, at(9), locked=True), technician=someone(2))
    for aim in (Aim.DRIVING, Aim.DISTANCE):
        found = plan(
            problem(
                day(technician=someone(1)), near, visits=[visit(7, priority=1)], travel=travel, playbook=preferring(aim)
            ),
            budget=BRIEF,
        )
        assert where(found, 7) == [1]


def test_the_worthier_of_two_visits_is_served():
    short = day(shift_=shift(8, 10))
    urgent = plan(problem(short, visits=[visit(1, priority=4), visit(2, priority=1)]), budget=BRIEF)
    assert list(urgent.plan.where) == [2]
    valued = plan(problem(short, visits=[visit(1, value=900), visit(2)]), budget=BRIEF)
    assert list(valued.plan.where) == [1]


def test_the_plan_is_left_alone_unless_it_pays():
    travel = TableTravel(minutes={(0, 1): 12, (1, 0): 12})
    standing = day(stop(1, at(9)), technician=someone(1))
    kept = plan(problem(standing, day(technician=someone(2)), playbook=KEEP_PROMISES, travel=travel), budget=BRIEF)
    assert kept.changes == ()


# --- operations --------------------------------------------------------------------------------------


def test_a_day_is_put_in_better_order():
    """Out and back along a road: 1, 2 and 3 lie ten minutes apart, 3 the furthest."""
    along = {(a, b): 10 * abs(a - b) for a in range(4) for b in range(4) if a != b}
    zigzag = day(stop(2, at(8, 30)), stop(1, at(10)), stop(3, at(12)))
    found = improve(problem(zigzag, travel=TableTravel(minutes=along)), budget=BRIEF)
    order = [stop_.visit.id for stop_ in found.plan.stops[0]]
    assert order in ([1, 2, 3], [3, 2, 1])
    assert found.points_before[Aim.DRIVING] - found.points_after[Aim.DRIVING] == 20 * MINUTE
    assert found.unserved == ()


def test_a_day_in_order_stays_as_it_is():
    found = improve(problem(day(stop(1, at(8, 10)), stop(2, at(9, 20)))), budget=BRIEF)
    assert found.changes == ()


def test_one_day_at_a_time_is_put_in_order():
    with pytest.raises(ValueError):
        improve(problem(*TWO), budget=BRIEF)


def test_repair_finds_a_place_for_the_work_of_somebody_ill_and_moves_nothing_else():
    promise = Interval(start=at(9), end=at(12))
    ill = day(
        stop(1, at(9), promise=promise, locked=True, locked_because=why(Code.SENT)),
        technician=someone(1),
        absences=(Interval(start=at(0), end=at(23)),),
    )
    well = day(stop(2, at(13)), technician=someone(2))
    found = repair(problem(ill, well, playbook=KEEP_PROMISES), budget=BRIEF)
    assert [change.visit_id for change in found.changes] == [1]
    assert where(found, 1) == [1]
    assert promise.holds(starts(found, 1)[0])


def test_a_sequence_is_placed_in_one_step_and_nothing_else():
    link = Link(kind=LinkKind.AFTER, first=1, second=2)
    found = sequence(
        problem(day(), visits=[visit(1), visit(2), visit(3)], links=(link,)), visit_ids=[1, 2], budget=BRIEF
    )
    assert sorted(found.plan.where) == [1, 2]
    assert starts(found, 2)[0] >= starts(found, 1)[0] + HOUR


def test_what_has_begun_stays_and_the_rest_is_planned_after_it():
    begun = stop(1, at(9), actual=Actual(departed=at(8, 50), arrived=at(9, 5)))
    found = plan(problem(day(begun), visits=[visit(2)], now=at(9, 30)), budget=BRIEF)
    assert starts(found, 1) == [at(9)]
    assert starts(found, 2) == [at(10, 15)]


# --- openings ----------------------------------------------------------------------------------------


def test_openings_say_what_they_cost_and_why():
    near = day(stop(1, at(9), locked=True), stop(2, at(13), locked=True), technician=someone(1))
    unskilled = day(technician=someone(2, skills={}))
    found = OpeningFinder(problem(near, unskilled, visits=[visit(3, needs={"Door drives": 2})])).openings(3)
    [opening] = found.openings
    assert opening.start == at(10, 10)
    assert opening.points[Aim.DRIVING] == 10 * MINUTE
    assert "10 min more driving, between two visits in Millrace" in opening.reasons
    assert "Back 1 h 50 min before the shift ends" in opening.reasons
    [excluded] = found.excluded
    assert excluded.why.reasons == ("Door drives 2 needed, Technician 2 has none",)
    assert (excluded.why.hindrance, excluded.why.about) == (Hindrance.NEEDED, "Door drives 2")


def test_who_has_no_time_is_told_by_what_would_break():
    full = day(stop(1, at(8, 10), minutes=460, locked=True), technician=someone(1))
    found = OpeningFinder(problem(full, visits=[visit(2)])).openings(2)
    assert found.openings == ()
    assert any("overtime" in reason or "verlaps" in reason for reason in found.excluded[0].why.reasons)


def test_a_placed_visit_is_asked_about_as_if_it_stood_nowhere():
    found = OpeningFinder(problem(day(stop(1, at(15))), visits=[])).openings(1)
    assert [opening.start for opening in found.openings] == [at(8, 10)]


def test_a_crew_s_opening_has_a_seat_for_each():
    found = OpeningFinder(problem(*TWO, visits=[visit(7, crew=2)])).openings(7)
    assert [seat.technician_id for seat in found.openings[0].seats] == [1, 2]


# --- the odd ones ------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    "odd",
    [
        problem(day()),
        problem(visits=[visit(1)]),
        problem(day(stop(1, at(9), locked=True), stop(2, at(11), locked=True))),
        problem(day(shift_=shift(8, 16)), visits=[visit(1, minutes=24 * 60)]),
        problem(day(), visits=[visit(1, minutes=None)]),
        problem(day(stop(1, at(9)), stop(2, at(9))), visits=[visit(3)]),
        problem(day(), visits=[visit(1, promise=Interval(start=at(9), end=at(10)))], now=at(13)),
    ],
    ids=["nothing", "nobody", "all locked", "too long", "no duration", "overbooked", "promise passed"],
)
def test_odd_problems_have_an_answer_with_reasons(odd):
    for operation in (plan, fill, repair):
        found = operation(odd, budget=BRIEF)
        for unserved in found.unserved:
            assert unserved.reasons


def test_a_week_of_3000_visits_is_planned_and_stops_when_told():
    monday = day().shift
    assert monday is not None
    days = []
    for number in range(1, 25):
        for offset in range(5):
            hours = Interval(start=monday.hours.start + offset * 86_400, end=monday.hours.end + offset * 86_400)
            days.append(replace(day(technician=someone(number)), shift=replace(monday, hours=hours)))
    visits = [visit(1000 + n, minutes=30 + n % 60, place=1 + n % 15, priority=1 + n % 5) for n in range(3000)]
    week = problem(*days, visits=visits, playbook=LEAST_DRIVING)
    asked = []

    def stop_soon():
        asked.append(1)
        return len(asked) > 3

    found = plan(week, budget=Budget(iterations=10**9), should_stop=stop_soon)
    assert found.stopped
    assert len(found.changes) > 300
    assert len(found.changes) + len(found.unserved) == 3000
    assert not found.broken_after


def test_progress_is_told_and_grows():
    shares = []
    plan(
        problem(day(), visits=[visit(1), visit(2)]),
        budget=Budget(iterations=2000),
        progress=lambda progress: shares.append(progress.share),
    )
    assert shares == sorted(shares)
    assert shares[-1] == 1.0

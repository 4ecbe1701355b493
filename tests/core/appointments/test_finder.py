"""Offering a time: what is offered can be kept, and breaks nothing that was promised before."""

from dataclasses import replace
from datetime import timedelta

from hypothesis import given, settings
from hypothesis import strategies as st

from core.appointments.finder import OfferFinder
from core.appointments.offers import OfferRules, Wish, windows_on
from core.basics import Interval
from core.scheduling import KEEP_PROMISES, Plan, Problem, evaluate
from core.scheduling.engine import Budget, plan
from core.scheduling.evaluation.evaluate import with_plan
from core.scheduling.judgement.proposal import broken_keys
from tests.core.scheduling.random_worlds import a_problem
from tests.core.worlds import HOUR, MONDAY, TZ, TableTravel, at, day, ines, shift, stop, visit

RULES = OfferRules(shown=4)
MORNING = Interval(start=at(8), end=at(10))
NOON = Interval(start=at(10), end=at(12))
AFTERNOON = Interval(start=at(13), end=at(15))
ALL = [MORNING, NOON, AFTERNOON]


def world(*days, backlog=(), now=None) -> Problem:
    return Problem(days=days, backlog=tuple(backlog), playbook=KEEP_PROMISES, travel=TableTravel(), now=now, grain=300)


def someone(number: int, *stops, name: str = "", **skills: int):
    person = replace(ines(**skills), id=number, name=name or f"Technician {number}", areas=frozenset())
    return replace(day(*stops, technician=person), shift=shift())


def test_an_empty_day_offers_every_window_with_reasons():
    found = OfferFinder(world(someone(1))).offers(visit(9), ALL, rules=RULES)
    assert {offer.window for offer in found.offers} == set(ALL)
    assert "Nothing else within 2.5 km that day" in found.offers[0].reasons
    assert all(offer.technician_ids == (1,) for offer in found.offers)


def test_planned_work_near_by_makes_a_window_better():
    near = someone(1, stop(5, at(13), place=9))
    [first, *_] = OfferFinder(world(near)).offers(visit(9), ALL, rules=RULES).offers
    assert first.parts["near"] > 0
    assert "1 other visit within 2.5 km that day, in Millrace" in first.reasons


def test_what_was_promised_without_a_technician_keeps_its_place():
    promised = visit(7, minutes=110, promise=Interval(start=at(8, 10), end=at(8, 20)))
    found = OfferFinder(world(someone(1), backlog=[promised])).offers(
        visit(9, minutes=100), [Interval(start=at(8, 10), end=at(9))], rules=RULES
    )
    assert found.offers == ()
    assert found.refusals == ("1 could do it and has no room in the window without breaking a promise",)


def test_a_promise_without_a_technician_makes_room_in_its_own_window():
    """Its thought place is at eight; it goes to the afternoon, which it was promised as well, for the new one."""
    loose = visit(7, minutes=110, promise=Interval(start=at(8, 10), end=at(14)))
    found = OfferFinder(world(someone(1), backlog=[loose])).offers(
        visit(9, minutes=100), [Interval(start=at(8, 10), end=at(8, 40))], rules=RULES
    )
    [offer] = found.offers
    assert offer.moves == ()
    assert {one.visit.id for one in offer.days[0]} == {7, -1}


def test_small_work_without_a_promise_makes_room_for_urgent_work_and_says_so():
    small = stop(5, at(8, 10), minutes=300, priority=5)
    found = OfferFinder(world(someone(1, small))).offers(visit(9, priority=1, minutes=120), [MORNING], rules=RULES)
    [offer] = found.offers
    assert [move.visit_id for move in offer.moves] == [5]
    assert offer.reasons[0].startswith("Moves W-5 to Technician 1")
    assert not offer.recommended


def test_what_a_person_placed_against_a_limit_is_not_thrown_out_to_make_room():
    """It would find no place by the rules, so it would always be lost."""
    overlong = stop(5, at(8, 10), minutes=700, priority=5)
    found = OfferFinder(world(someone(1, overlong))).offers(visit(9, priority=1, minutes=120), [MORNING], rules=RULES)
    assert found.offers == ()


def test_ordinary_work_moves_nothing():
    small = stop(5, at(8, 10), minutes=300, priority=5)
    found = OfferFinder(world(someone(1, small))).offers(visit(9, priority=4, minutes=120), [MORNING], rules=RULES)
    assert found.offers == ()
    assert any("Moves W-5" in remedy.sentence for remedy in found.remedies)


def test_no_window_says_who_is_kept_out_and_by_what():
    found = OfferFinder(world(someone(1), someone(2))).offers(visit(9, needs={"Rescue": 2}), ALL, rules=RULES)
    assert found.offers == ()
    assert found.refusals == ("2 of 2 technicians lack Rescue 2",)


def test_overtime_that_would_help_is_named():
    full = someone(1, stop(5, at(8, 10), minutes=440))
    found = OfferFinder(world(full)).offers(visit(9), [Interval(start=at(15), end=at(16))], rules=RULES)
    assert found.offers == ()
    assert found.remedies[0].sentence.endswith("with up to 1 h overtime of Technician 1")


def test_somebody_from_another_area_would_help():
    away = replace(someone(1), technician=replace(ines(), areas=frozenset({"Hale"})))
    found = OfferFinder(world(away)).offers(visit(9), ALL, rules=RULES)
    assert found.refusals == ("1 of 1 technicians do not work in Millrace",)
    assert found.remedies[0].sentence == "Mon 23 Nov, 08:00–10:00: if Ines Falk may work in Millrace"


def test_a_crew_is_offered_only_where_both_have_room():
    busy = someone(1, stop(5, at(8, 10), minutes=170))
    found = OfferFinder(world(busy, someone(2))).offers(visit(9, crew=2), ALL, rules=RULES)
    assert {offer.window for offer in found.offers} == {NOON, AFTERNOON}
    assert all(sorted(offer.technician_ids) == [1, 2] for offer in found.offers)


def test_without_a_duration_nothing_is_offered():
    found = OfferFinder(world(someone(1))).offers(visit(9, minutes=None), ALL, rules=RULES)
    assert found.refusals == ("Nobody has said how long it takes: give a duration",)


def test_recommendations_switched_off_list_the_windows_by_time():
    rules = replace(RULES, recommend=False)
    found = OfferFinder(world(someone(1, stop(5, at(13), place=9)))).offers(visit(9), ALL, rules=rules).offers
    assert [offer.window for offer in found] == ALL
    assert not any(offer.recommended for offer in found)


def test_a_wish_narrows_the_windows():
    assert [w for w in ALL if Wish(part="morning").allows(w, TZ)] == [MORNING, NOON]
    assert [w for w in ALL if Wish(part="afternoon").allows(w, TZ)] == [AFTERNOON]
    assert [w for w in ALL if Wish(weekdays=frozenset({1})).allows(w, TZ)] == []
    assert [w for w in ALL if Wish(not_before=MONDAY).allows(w, TZ)] == ALL


def test_windows_that_have_begun_are_not_offered():
    from datetime import time

    spans = [(time(8), time(10)), (time(13), time(15))]
    assert windows_on([MONDAY], spans, TZ, now=at(9)) == [AFTERNOON]
    assert len(windows_on([MONDAY], spans, TZ, now=at(7), minutes=60)) == 7


@given(st.integers(0, 100_000))
@settings(max_examples=150)
def test_an_offer_never_breaks_what_was_promised_before(seed):
    """The days an offer names as its proof, put in the place of the days as they are, break nothing more."""
    problem = a_problem(seed)
    problem = with_plan(problem, plan(problem, budget=Budget(iterations=30), seed=seed).plan)
    promised = tuple(one for one in problem.backlog if one.promise is not None)
    asked = next((one for one in problem.backlog if one.promise is None), visit(999, place=3))
    linked = {key for link in problem.links for key in (link.first, link.second)}
    if asked.id in linked:
        asked = replace(asked, id=999)
    problem = replace(problem, backlog=tuple(one for one in promised if one.id not in linked))
    finder = OfferFinder(problem)
    before = broken_keys(evaluate(finder.base, finder.base.as_it_stands))
    first = at(8)
    windows = [Interval(start=first + n * 2 * HOUR, end=first + (n + 1) * 2 * HOUR) for n in range(6)]
    for offer in finder.offers(asked, windows, rules=RULES).offers:
        stops = list(finder.base.as_it_stands.stops)
        for index, own in offer.days.items():
            stops[index] = own
        proof = Plan(stops=tuple(stops))
        new = {one.visit.id for own in proof.stops for one in own} - finder.base.visits.keys()
        assert len(new) == 1
        with_it = replace(finder.base, backlog=tuple({s.visit.id: s.visit for o in offer.days.values() for s in o
                                                      if s.visit.id in new}.values()))  # fmt: skip
        after = evaluate(with_it, proof)
        assert broken_keys(after) <= before
        [stop_] = {(s.visit.id, s.start) for o in offer.days.values() for s in o if s.visit.id in new}
        times = next(t.stop(stop_[0]) for t in after.timetables if t.stop(stop_[0]))
        assert offer.window.start <= times.starts <= offer.window.end
        gone = finder.base.visits.keys() - {one.visit.id for own in proof.stops for one in own}
        assert all(finder.base.visits[key].promise is None for key in gone)
        assert gone <= {move.visit_id for move in offer.moves}


def test_what_must_be_responded_to_sooner_is_never_recommended_later():
    rules = replace(RULES, respond_by=at(9))
    found = OfferFinder(world(someone(1))).offers(visit(9), ALL, rules=rules).offers
    assert [offer.window for offer in found if offer.recommended] == [MORNING]
    later = next(offer for offer in found if offer.window == NOON)
    assert later.reasons[0] == "Too late to respond by 09:00"


def test_what_comes_too_late_stands_last_however_much_better_it_lies():
    tuesday = MONDAY + timedelta(days=1)
    near = stop(5, at(13, day=tuesday), place=9)
    there = replace(
        someone(1, near), shift=replace(shift(), hours=Interval(start=at(8, day=tuesday), end=at(16, day=tuesday)))
    )
    windows = [MORNING, Interval(start=at(10, day=tuesday), end=at(12, day=tuesday))]
    order = [
        [offer.window for offer in OfferFinder(world(someone(1), there)).offers(visit(9), windows, rules=rules).offers]
        for rules in (replace(RULES, soon=0), replace(RULES, soon=0, respond_by=at(9)))
    ]
    assert order == [windows[::-1], windows]


def test_outside_every_area_nothing_is_recommended_and_it_is_said():
    found = OfferFinder(world(someone(1))).offers(visit(9), ALL, rules=replace(RULES, outside=True)).offers
    assert found
    assert not any(offer.recommended for offer in found)
    assert all(offer.reasons[0] == "Outside every area" for offer in found)


def test_promised_work_near_by_that_nobody_has_yet_is_named():
    promised = replace(visit(7, promise=Interval(start=at(8), end=at(12))), place=9)
    found = OfferFinder(world(someone(1), backlog=[promised])).offers(visit(9), ALL, rules=RULES).offers
    assert f"Near {promised.label}, promised Mon 23 Nov, 08:00–12:00, nobody yet" in found[0].reasons


def test_the_true_reason_is_told_when_it_is_longer_than_any_shift():
    found = OfferFinder(world(someone(1))).offers(visit(9, minutes=900), ALL, rules=RULES)
    assert found.offers == ()
    assert found.refusals == ("It takes 15 h; the longest shift has 8 h",)


def test_the_true_reason_is_told_when_nobody_works_that_day():
    sunday = MONDAY + timedelta(days=6)
    window = Interval(start=at(8, day=sunday), end=at(10, day=sunday))
    found = OfferFinder(world(someone(1))).offers(visit(9), [window], rules=RULES)
    assert found.refusals == ("Nobody has a shift on Sun 29 Nov",)

"""What a placement would mean, in words."""

from dataclasses import replace

from core.basics import Interval
from core.scheduling import first_fit, judge, judge_crew, relief
from core.scheduling.judgement.explaining import Hindrance, WhyNot, in_short
from core.scheduling.model.reasons import Code, why
from tests.core.worlds import TableTravel, at, day, ines, stop

TRAVEL = TableTravel()


def sentences(verdict, weight):
    return [reason.sentence for reason in verdict.reasons if reason.weight == weight]


def test_a_good_place_says_why_it_is_good():
    promise = Interval(start=at(10), end=at(12))
    verdict = judge(day(stop(1, at(9))), stop(2, at(10, 30), promise=promise), TRAVEL)
    assert verdict.allowed
    assert sentences(verdict, "good") == ["Inside the promise, 1 h 30 min to spare"]
    assert sentences(verdict, "note") == [
        "10 min more driving: 10 min before it, 10 after",
        "Back 4 h 20 min before the shift ends",
    ]
    assert sentences(verdict, "warns") == []


def test_a_missing_skill_refuses():
    verdict = judge(day(), stop(1, at(9), needs={"Rescue": 1}), TRAVEL)
    assert not verdict.allowed
    assert verdict.refusals == ("Rescue 1 needed, Ines Falk has none",)


def test_a_locked_visit_says_what_locks_it():
    locked = stop(1, at(9), locked=True, locked_because=why(Code.UNDER_WAY, state="on site"))
    verdict = judge(day(), locked, TRAVEL)
    assert verdict.refusals == ("It is on site: what is under way does not move",)


def test_what_it_does_to_others_is_its_price_and_never_forbids_it():
    promise = Interval(start=at(10), end=at(10, 30))
    verdict = judge(day(stop(2, at(10), promise=promise)), stop(1, at(9, 30)), TRAVEL)
    assert verdict.allowed
    # Two at once are asked about, whichever of them is put on the other; the rest is said.
    assert verdict.questions == ("W-2: overlaps W-1 by 30 min",)
    assert sentences(verdict, "warns") == ["W-2: 10 min after the promise 10:00–10:30"]
    assert "Pushes 1 later visit" in sentences(verdict, "note")


def test_limits_that_were_broken_before_are_not_blamed_on_the_new_one():
    crowded = day(stop(2, at(13)), stop(3, at(13, 30)))
    verdict = judge(crowded, stop(1, at(9)), TRAVEL)
    assert sentences(verdict, "warns") == []


def test_moving_within_the_day_is_compared_with_the_day_without_it():
    planned = day(stop(1, at(9)), stop(2, at(11)))
    verdict = judge(planned, stop(2, at(13)), TRAVEL)
    assert verdict.extra_drive_seconds == 10 * 60
    assert [times.visit_id for times in verdict.timetable.stops] == [1, 2]


def test_a_time_that_has_passed_is_said():
    verdict = judge(day(), stop(1, at(9)), TRAVEL, now=at(9, 30))
    assert "09:00 has passed" in sentences(verdict, "warns")


def test_overtime_is_said():
    verdict = judge(day(), stop(1, at(15, 30)), TRAVEL)
    assert "40 min of overtime" in sentences(verdict, "note")


def test_the_first_time_that_fits_lies_after_what_is_there_and_harms_nothing():
    promise = Interval(start=at(9), end=at(9, 30))
    planned = day(stop(1, at(9), promise=promise))
    found = first_fit(planned, stop(2, at(8)).visit, TRAVEL)
    assert found is not None
    start, verdict = found
    # An hour of work from 08:10 on would end at 09:10; the other one's hour ends at 10:00, ten minutes away.
    assert start == at(10, 10)
    assert verdict.is_plain
    assert verdict.pushed == 0


def test_the_first_time_that_fits_keeps_to_the_hours_it_is_given():
    spec = stop(2, at(8)).visit
    within = Interval(start=at(13), end=at(14))
    assert first_fit(day(), spec, TRAVEL, within=within)[0] == at(13)
    assert first_fit(day(), spec, TRAVEL, now=at(15, 55)) is None
    assert first_fit(replace(day(), shift=None), spec, TRAVEL) is None


def test_what_a_person_may_override_is_asked_and_does_not_forbid():
    promise = Interval(start=at(10), end=at(12))
    verdict = judge(day(), stop(1, at(13), promise=promise), TRAVEL)
    assert verdict.allowed
    assert verdict.questions == ("1 h after the promise 10:00–12:00",)
    assert not verdict.is_plain


# --- crews --------------------------------------------------------------------------------------------


def crew_verdict(lead, mate, held):
    others = {mate.technician.name: judge(mate, held, TRAVEL)}
    return judge_crew(judge(lead, held, TRAVEL), others)


def mate(*stops, **more):
    return day(*stops, technician=replace(ines(), id=2, name="Ivor Larkin"), **more)


def test_a_crew_may_go_where_all_of_them_may():
    held = stop(1, at(11))
    verdict = crew_verdict(day(), mate(), held)
    assert verdict.allowed
    assert verdict.is_plain
    assert verdict.extra_drive_seconds == 2 * 20 * 60


def test_what_speaks_against_a_mate_refuses_under_the_mates_name():
    held = stop(1, at(11))
    away = mate(absences=(Interval(start=at(10), end=at(15)),))
    verdict = crew_verdict(day(), away, held)
    assert not verdict.allowed
    assert all("Ivor Larkin" in sentence for sentence in verdict.refusals)


def test_what_it_pushes_on_a_mates_day_is_said_and_counted():
    held = stop(1, at(11))
    verdict = crew_verdict(day(), mate(stop(2, at(11, 30))), held)
    assert verdict.allowed
    assert verdict.pushed == 1
    assert verdict.questions == ("Ivor Larkin: W-2: overlaps W-1 by 30 min",)


def test_what_is_the_same_for_all_is_said_once():
    held = stop(1, at(13), promise=Interval(start=at(10), end=at(12)))
    verdict = crew_verdict(day(), mate(), held)
    assert verdict.questions == ("1 h after the promise 10:00–12:00",)


def test_the_timetable_shown_is_the_leads():
    held = stop(1, at(11))
    lead = day(stop(3, at(9)))
    assert crew_verdict(lead, mate(), held).timetable == judge(lead, held, TRAVEL).timetable


def test_the_drive_after_it_is_told_too_and_not_the_one_before_the_break():
    verdict = judge(day(stop(1, at(9)), stop(3, at(13))), stop(2, at(10, 30)), TableTravel({(2, 3): 25}))
    assert sentences(verdict, "note")[0] == "25 min more driving: 10 min before it, 25 after"


def test_a_day_that_a_visit_leaves_is_spared_its_detour():
    planned = day(stop(1, at(9)), stop(2, at(11)), stop(3, at(13)))
    far = TableTravel({(1, 2): 30, (2, 3): 30})
    spared = relief(planned, 2, far)
    assert (spared.weight, spared.sentence) == ("note", "50 min less driving for Ines Falk")


def test_leaving_may_also_cost_driving():
    planned = day(stop(1, at(9)), stop(2, at(11)), stop(3, at(13)))
    on_the_way = TableTravel({(1, 2): 5, (2, 3): 5, (1, 3): 20})
    assert relief(planned, 2, on_the_way).sentence == "10 min more driving for Ines Falk"


def test_what_keeps_many_out_is_said_in_short():
    rigging = [
        WhyNot(hindrance=Hindrance.NEEDED, about="Rigging 2", reasons=(f"Rigging 2 needed, {said}",))
        for said in ("Ines has none", "Tom has level 1")
    ]
    absent = WhyNot(hindrance=Hindrance.ABSENT, reasons=("Ivor is absent",))
    full = WhyNot(hindrance=Hindrance.NO_TIME, reasons=("Overlaps W-1",))
    assert in_short([*rigging, absent, full]) == (
        "2 of 4 technicians: Rigging 2 is needed",
        "1 of 4 technicians: absent",
        "1 of 4 technicians: no time left for it",
    )
    assert in_short([]) == ()

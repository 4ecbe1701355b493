"""Laws of the evaluator, tried on many random days."""

from dataclasses import replace

from hypothesis import given, settings
from hypothesis import strategies as st

from core.basics import Interval
from core.scheduling import Actual, Kind, Stop, evaluate_day, judge
from core.scheduling.evaluation.safety import Spread, likely_start
from core.scheduling.judgement.slack import MOST, STEP, slack_of
from tests.core.worlds import HOUR, TableTravel, at, day, shift, stop

PLACES = 6


@st.composite
def tables(draw):
    pairs = [(a, b) for a in range(PLACES) for b in range(PLACES) if a != b]
    minutes = draw(st.lists(st.integers(0, 90), min_size=len(pairs), max_size=len(pairs)))
    return TableTravel(minutes=dict(zip(pairs, minutes, strict=True)))


@st.composite
def days(draw, *, happened: bool = False):
    count = draw(st.integers(0, 7))
    stops = []
    for number in range(1, count + 1):
        start = at(6) + draw(st.integers(0, 14 * 12)) * 300
        window = draw(st.one_of(st.none(), st.integers(0, 10)))
        promise = None if window is None else Interval(start=at(7 + window), end=at(9 + window))
        actual = Actual()
        if happened and draw(st.booleans()):
            departed = at(6) + draw(st.integers(0, 6 * 60)) * 60
            arrived = departed + draw(st.integers(0, 90)) * 60
            finished = draw(st.one_of(st.none(), st.integers(0, 300)))
            actual = Actual(
                departed=departed, arrived=arrived, finished=None if finished is None else arrived + finished * 60
            )
        minutes = draw(st.one_of(st.none(), st.integers(1, 300)))
        place = draw(st.integers(0, PLACES - 1))
        stops.append(stop(number, start, minutes=minutes, place=place, promise=promise, actual=actual))
    rest = draw(st.booleans())
    return day(*stops, shift_=shift(rest=rest, overtime=draw(st.integers(0, 60))))


def overlaps(timetable):
    return [
        (first, second)
        for first, second in zip(timetable.stretches, timetable.stretches[1:], strict=False)
        if second.start < first.end
    ]


@settings(max_examples=400)
@given(days(), tables(), st.one_of(st.none(), st.integers(0, 15)))
def test_stretches_never_overlap_and_drives_take_what_the_matrix_says(planned, travel, hour):
    now = None if hour is None else at(5) + hour * HOUR
    timetable = evaluate_day(planned, travel, now=now)
    assert overlaps(timetable) == []
    place = planned.start_place
    by_id = {row.visit.id: row.visit for row in planned.stops}
    for times in timetable.stops:
        destination = by_id[times.visit_id].place
        assert times.drive_seconds == travel.leg(place, destination, 0).seconds
        assert times.arrives <= times.starts <= times.ends
        place = destination


@settings(max_examples=300)
@given(days(happened=True), tables(), st.integers(0, 15))
def test_whatever_was_stamped_stretches_never_overlap(planned, travel, hour):
    assert overlaps(evaluate_day(planned, travel, now=at(5) + hour * HOUR)) == []


@settings(max_examples=200)
@given(days(), tables())
def test_every_visit_is_done_once_and_never_before_its_planned_start(planned, travel):
    timetable = evaluate_day(planned, travel)
    assert [times.visit_id for times in timetable.stops] == [row.visit.id for row in planned.stops]
    for row, times in zip(planned.stops, timetable.stops, strict=True):
        assert times.starts >= row.start
        assert times.ends - times.starts == (row.visit.duration or HOUR)


@settings(max_examples=200)
@given(days(), tables())
def test_a_break_lies_inside_its_window_and_is_taken_at_most_once(planned, travel):
    rests = [s for s in evaluate_day(planned, travel).stretches if s.kind is Kind.BREAK]
    assert len(rests) <= 1
    for rest in rests:
        assert planned.shift.rest.start <= rest.start
        assert rest.end <= planned.shift.rest.end
        assert rest.seconds == planned.shift.rest_seconds


@settings(max_examples=150)
@given(days(), tables(), st.integers(0, 60))
def test_what_a_drag_is_told_is_what_the_day_becomes(planned, travel, slot):
    moved = stop(99, at(8) + slot * 600, place=2)
    verdict = judge(planned, moved, travel)
    assert verdict.timetable == evaluate_day(planned.with_stop(moved), travel)


@settings(max_examples=100)
@given(days(), tables())
def test_the_same_day_gives_the_same_timetable(planned, travel):
    assert evaluate_day(planned, travel) == evaluate_day(planned, travel)


# --- why a visit stands where it stands ---------------------------------------------------------------


@settings(max_examples=150)
@given(days(), tables(), st.one_of(st.none(), st.integers(0, 15)))
def test_what_may_slip_says_how_far_and_what_stops_it(planned, travel, hour):
    now = None if hour is None else at(5) + hour * HOUR
    before = evaluate_day(planned, travel, now=now)
    for row in planned.stops:
        found = slack_of(planned, row.visit.id, travel, now=now)
        assert found.sooner is not None
        assert found.later is not None
        assert 0 <= found.later <= MOST
        assert found.later % STEP == 0
        assert bool(found.beyond) == (found.later < MOST)
        assert found.sooner >= 0
        assert found.held or planned.shift is None
    assert evaluate_day(planned, travel, now=now) == before


@settings(max_examples=200)
@given(days(), tables())
def test_what_can_begin_sooner_can_be_reached_then(planned, travel):
    planned = replace(planned, shift=shift())  # without a break: it would come at another time
    for row in planned.stops:
        times = evaluate_day(planned, travel).stop(row.visit.id)
        found = slack_of(planned, row.visit.id, travel)
        assert times is not None
        assert found.sooner is not None
        earlier = Stop(visit=row.visit, start=times.starts - found.sooner)
        moved = planned.with_stop(earlier)
        order = [other.visit.id for other in moved.stops]
        if found.sooner and order == [other.visit.id for other in planned.stops]:
            reached = evaluate_day(moved, travel).stop(row.visit.id)
            assert reached is not None
            assert reached.starts == earlier.start


@settings(max_examples=60)
@given(days(), tables(), st.integers(1, 5))
def test_nobody_is_likely_to_begin_before_the_plan_says(planned, travel, seed):
    timetable = evaluate_day(planned, travel)
    spread = Spread(work={row.visit.id: 0.3 for row in planned.stops})
    for row in planned.stops:
        found = likely_start(planned, timetable, row.visit.id, spread=spread, seed=seed, samples=200)
        assert found is not None
        assert found.start >= row.start
        assert found.end >= found.start

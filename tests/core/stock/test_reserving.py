"""Who takes what from where; and that the evaluator says the same of each day."""

from datetime import date, timedelta

from hypothesis import given, settings
from hypothesis import strategies as st

from core.calendars import local_day
from core.scheduling import Limit, TechnicianSpec, evaluate_day
from core.scheduling.model.vans import Vans, sources
from core.stock import Coming, Driver, Need, Supplies, reserve
from tests.core.worlds import HOUR, MONDAY, TZ, TableTravel, at, day, stop

VAN, DEPOT, OTHER = 1, 2, 3
DAY = 24 * HOUR


def need(visit, hour, *, technician=1, parts=None, sources=(VAN, DEPOT)):
    return Need(
        visit=visit, technician=technician, day=MONDAY, start=at(hour), parts=parts or {"roller": 1}, sources=sources
    )


def test_the_van_comes_before_the_depot():
    found = reserve([need(1, 9, parts={"roller": 3})], {VAN: {"roller": 2}, DEPOT: {"roller": 5}})
    assert [(row.place, row.quantity) for row in found.draws] == [(VAN, 2), (DEPOT, 1)]
    assert found.missing == {}
    assert (found.at(VAN, "roller"), found.at(DEPOT, "roller"), found.at(DEPOT, "lamp")) == (2, 1, 0)


def test_who_begins_first_takes_first():
    there = {VAN: {}, OTHER: {}, DEPOT: {"roller": 1}}
    needs = [need(1, 11), need(2, 9, technician=2, sources=(OTHER, DEPOT))]
    assert reserve(needs, there).missing == {1: {"roller": 1}}


def test_a_van_that_nobody_counts_lacks_nothing():
    assert reserve([need(1, 9, sources=())], {}).missing == {}


def test_what_is_on_its_way_is_there_from_its_moment_on():
    comes = Coming(part="roller", quantity=1, source=DEPOT, target=VAN, at=at(10), day=MONDAY)
    there = {VAN: {}, DEPOT: {"roller": 1}}
    found = reserve([need(1, 9, sources=(VAN,)), need(2, 11, sources=(VAN,))], there, [comes])
    assert found.missing == {1: {"roller": 1}}
    # It is spoken for where it comes from, and where it goes to once somebody takes it.
    assert (found.at(DEPOT, "roller"), found.at(VAN, "roller")) == (1, 1)


PARTS = ("roller", "lamp")
amounts = st.dictionaries(st.sampled_from(PARTS), st.integers(1, 3), min_size=1)
visits = st.lists(st.tuples(st.integers(1, 3), st.integers(0, 2), st.integers(0, 7), amounts), max_size=14)
levels = st.fixed_dictionaries({part: st.integers(0, 5) for part in PARTS})
comings = st.lists(st.tuples(st.sampled_from((11, 12)), st.integers(0, 2), st.integers(8, 15)), max_size=3)


@settings(max_examples=150, deadline=None)
@given(visits, st.tuples(levels, levels, levels, levels), comings)
def test_the_evaluator_finds_missing_what_nobody_can_take(planned, there, on_the_way):
    """Three technicians, two of whom start at the depot, on three days: what is missing by the reservations is what
    each day's timetable says is missing."""
    on_hand = dict(zip((11, 12, 13, 20), there, strict=True))
    drivers = {
        1: Driver(id=1, van=11, depot=20, depot_name="Northlock"),
        2: Driver(id=2, van=12, depot=20, depot_name="Northlock"),
        3: Driver(id=3, van=13, depot=20, depot_name="Northlock", starts_at_home=True),
    }
    coming = tuple(
        Coming(part="roller", quantity=1, source=13, target=target, at=at(hour) + number * DAY, day=on(number))
        for target, number, hour in on_the_way
    )
    stops, needs = {}, []
    for key, (technician, number, hour, parts) in enumerate(planned, 100):
        start = at(8 + hour) + number * DAY
        stops.setdefault((technician, number), []).append(stop(key, start, minutes=5, parts=parts))
        needs.append(
            Need(
                visit=key, technician=technician, day=on(number), start=start, parts=parts,
                sources=sources(drivers[technician], on(number), ()),
            )
        )  # fmt: skip
    supplies = Supplies(on_hand=on_hand, coming=coming, drivers=drivers)
    reserved = reserve(needs, on_hand, coming)
    vans = Vans(parts=frozenset(PARTS), supplies=supplies, reserved=reserved)
    broken = set()
    for (technician, number), own in stops.items():
        load = vans.load(technician, on(number))
        spec = TechnicianSpec(id=technician, name="Somebody", skills={"Door drives": 3}, load=load)
        broken |= {
            row.visit_id
            for row in evaluate_day(day(*own, technician=spec), TableTravel()).broken
            if row.limit is Limit.PARTS
        }
    assert broken == set(reserved.missing)


def test_on_each_day_of_a_run_there_is_what_can_be_taken_along_then():
    """Two start at the depot, and have set out today; one gets a piece brought tomorrow."""
    drivers = {key: Driver(id=key, van=10 + key, depot=20, depot_name="Northlock") for key in (1, 2)}
    coming = (Coming(part="roller", quantity=1, source=20, target=11, at=at(9) + DAY, day=on(1)),)
    supplies = Supplies(
        on_hand={11: {"roller": 2}, 12: {"roller": 0}, 20: {"roller": 6}}, drivers=drivers, coming=coming
    )
    need = Need(visit=7, technician=1, day=on(2), start=at(9) + 2 * DAY, parts={"roller": 4}, sources=(11, 20))
    vans = Vans(
        parts=frozenset({"roller"}), supplies=supplies, reserved=reserve([need], supplies.on_hand, coming),
        begun={(1, on(0)), (2, on(0))},
    )  # fmt: skip
    has = {(who, number): vans.run_load(who, on(0), on(number)).has("roller") for who in (1, 2) for number in (0, 1, 2)}
    # Five lie free at the depot once one is promised; one of them is spoken for by the visit, and two are shared each.
    assert has == {(1, 0): 2, (1, 1): 6, (1, 2): 6, (2, 0): 0, (2, 1): 2, (2, 2): 2}
    # One who is asked about alone may have all that nobody has spoken for.
    assert [vans.load(2, on(number)).has("roller") for number in (0, 1)] == [0, 4]


def on(number) -> date:
    assert local_day(at(12), TZ) == MONDAY
    return MONDAY + timedelta(days=number)

"""Certificates and inspections that are about to end are pointed at."""

from datetime import timedelta

from apps.people.models import Vehicle
from tests.apps.conftest import MONDAY


def told(dispatcher):
    return [(row["label"], row["sentence"]) for row in dispatcher.get("/people/running-out").json()]


def test_what_ended_or_ends_within_thirty_days_is_told_the_first_to_end_first(world, dispatcher):
    world.holds(world.ines, "Lift keys", MONDAY + timedelta(days=30))
    world.holds(world.ines, "First aid", MONDAY + timedelta(days=31))
    world.holds(world.ivor, "First aid", MONDAY - timedelta(days=1))
    world.holds(world.ivor, "Lift keys", None)
    for code, days in (("van-1", 5), ("van-2", 40)):
        due = MONDAY + timedelta(days=days)
        Vehicle.objects.create(code=code, name=code.title(), plate="VH-1", inspection_due=due)
    assert told(dispatcher) == [
        ("Ivor Larkin", "First aid ran out on Sun 22 Nov"),
        ("Van-1 (VH-1)", "the inspection is due on Sat 28 Nov"),
        ("Ines Falk", "Lift keys runs out on Wed 23 Dec"),
    ]


def test_who_has_left_and_what_is_driven_no_more_is_not_told(world, dispatcher):
    world.holds(world.ines, "Lift keys", MONDAY)
    world.ines.employed_until = MONDAY - timedelta(days=1)
    world.ines.save()
    Vehicle.objects.create(code="van-1", name="Van 1", inspection_due=MONDAY, retired=True)
    assert told(dispatcher) == []

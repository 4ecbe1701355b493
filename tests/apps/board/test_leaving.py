"""Somebody leaves: what is still planned for them is shown, and handed over in one step."""

from datetime import timedelta

from apps.orders.models import Visit
from foundation.moments import to_datetime
from tests.apps.conftest import MONDAY, at

FRIDAY = MONDAY + timedelta(days=4)
NEXT_MONDAY = MONDAY + timedelta(days=7)


def planned_after(api, technician, day=FRIDAY):
    return api.get(f"/board/planned-after/{technician.pk}", day=day.isoformat()).json()


def later(world, hour, **more):
    more = {"technician": world.ines, "state": "placed"} | more
    return world.visit(start=to_datetime(at(hour, day=NEXT_MONDAY)), **more)


def test_what_is_planned_after_the_last_day_is_shown_and_nothing_else(world, dispatcher):
    first, second = later(world, 9), later(world, 11)
    along = later(world, 13, technician=world.ivor, mates=[world.ines.pk], crew=2)
    later(world, 14, technician=world.ivor)  # somebody else's
    world.placed(15)  # on a day of work
    later(world, 15, state="cancelled")
    assert [row["id"] for row in planned_after(dispatcher, world.ines)] == [first.pk, second.pk, along.pk]
    assert planned_after(dispatcher, world.ines, day=NEXT_MONDAY) == []


def test_it_is_handed_over_as_it_was_previewed(world, dispatcher):
    visits = [later(world, 9), later(world, 11)]
    rows = planned_after(dispatcher, world.ines)
    wish = {
        "visits": [{"id": row["id"], "version": row["version"]} for row in rows], "kind": "give",
        "technician_id": world.ivor.pk, "seconds": 0, "because": "", "tell": "", "day": None, "preview": True,
    }  # fmt: skip
    preview = dispatcher.post("/board/bulk", wish).json()
    assert Visit.objects.filter(technician=world.ivor).count() == 0
    assert dispatcher.post("/board/bulk", wish | {"preview": False}).json() == preview
    assert set(Visit.objects.filter(technician=world.ivor).values_list("pk", flat=True)) == {v.pk for v in visits}
    assert planned_after(dispatcher, world.ines) == []


def test_only_who_plans_hands_over(world, as_role):
    assert as_role("intake").get(f"/board/planned-after/{world.ines.pk}", day="2026-11-27").status_code == 403

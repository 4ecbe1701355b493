"""The capacity outlook: nothing counted twice, and the work behind each figure adds up to it."""

from datetime import timedelta

import pytest

from apps.company.models import Area
from apps.orders.models import Visit, WorkOrder
from foundation.moments import to_datetime
from tests.apps.conftest import MONDAY, at

pytestmark = pytest.mark.django_db
TUESDAY = MONDAY + timedelta(days=1)
MORNING = {
    "promise_start": to_datetime(at(10, day=TUESDAY)), "promise_end": to_datetime(at(12, day=TUESDAY))
}  # fmt: skip


def outlook(api, **query):
    return api.get("/appointments/capacity", first=MONDAY.isoformat(), days=2, **query).json()


def behind(api, day, **query):
    return api.get(f"/appointments/capacity/{day}", **query).json()


def area_of(found, name):
    return next(row for row in found["areas"] if row["area"] == name)


def test_it_counts_what_is_free_promised_and_taken(world, dispatcher):
    world.placed(13, duration_seconds=3600)
    world.visit(**MORNING)
    found = outlook(dispatcher)
    today, tomorrow = found["total"]["days"]
    assert today["shifts"] == 2 * 6 * 3600  # two people, from ten to four
    assert today["shifts"] - today["free"] >= 3600
    assert (tomorrow["promised"], tomorrow["shifts"]) == (3600, 2 * 8 * 3600)
    assert area_of(found, world.site.area.name)["days"][1]["promised"] == 3600


def test_the_areas_add_up_to_the_company(world, dispatcher):
    Area.objects.create(name="Zennor", polygon=world.site.area.polygon)
    world.placed(13, duration_seconds=3601)
    found = outlook(dispatcher)
    for number, total in enumerate(found["total"]["days"]):
        cells = [row["days"][number] for row in found["areas"]]
        for figure in ("shifts", "free", "promised"):
            assert sum(cell[figure] for cell in cells) == total[figure]


def test_only_who_has_the_skill_counts(world, dispatcher):
    found = outlook(dispatcher, skill="rescue")
    assert {cell["shifts"] for row in (*found["areas"], found["total"]) for cell in row["days"]} == {0}


def test_what_waits_without_a_promise_is_counted_in_its_area_and_promised_work_is_not(world, dispatcher):
    world.visit(duration_seconds=3600)
    world.visit(duration_seconds=None)
    world.visit(**MORNING)
    found = outlook(dispatcher)
    here = area_of(found, world.site.area.name)
    assert (here["waiting_visits"], here["waiting_seconds"]) == (2, 2 * 3600)
    assert (found["total"]["waiting_visits"], found["total"]["waiting_seconds"]) == (2, 2 * 3600)


@pytest.mark.parametrize("whole", [True, False])
def test_the_work_behind_a_figure_adds_up_to_it(world, dispatcher, whole):
    there = {"technician": world.ines, "state": "placed"}
    world.visit(**there, duration_seconds=5400, start=to_datetime(at(9, day=TUESDAY)))
    promised = world.visit(**MORNING, crew=2)
    last_week = TUESDAY - timedelta(days=7)
    came_in = world.visit(**there | {"state": "done"}, start=to_datetime(at(9, day=last_week)))
    WorkOrder.objects.filter(pk=came_in.order_id).update(made_at=to_datetime(at(8, day=last_week)))
    name = "" if whole else world.site.area.name
    found = outlook(dispatcher)
    cell = (found["total"] if whole else area_of(found, name))["days"][1]
    asked = {} if whole else {"area_id": world.site.area_id}
    made = behind(dispatcher, TUESDAY, **asked)
    assert sum(row["working_here"] for row in made["workers"]) == cell["shifts"]
    assert sum(row["working_here"] - row["taken_here"] for row in made["workers"]) == cell["free"]
    assert [row["visit_id"] for row in made["promised"]] == [promised.pk]
    assert sum(row["seconds"] for row in made["promised"]) == cell["promised"] == 2 * 3600
    assert [row["order_id"] for row in made["expected"]] == [came_in.order_id]
    assert sum(row["seconds"] for row in made["expected"]) // made["weeks"] == cell["expected"] > 0


def test_another_area_has_none_of_it(world, dispatcher):
    other = Area.objects.create(name="Zennor", polygon=world.site.area.polygon)
    world.visit(**MORNING)
    made = behind(dispatcher, TUESDAY, area_id=other.pk)
    assert (made["promised"], made["expected"]) == ([], [])


def test_a_company_without_areas_sees_its_total(world, dispatcher):
    Visit.objects.all().delete()
    WorkOrder.objects.all().delete()
    world.site.area = None
    world.site.save()
    Area.objects.all().delete()
    found = outlook(dispatcher)
    assert found["areas"] == []
    assert found["total"]["days"][1]["shifts"] == 2 * 8 * 3600

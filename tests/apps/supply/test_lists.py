"""The list of parts says what its parts' pages add up to."""

from datetime import timedelta

import pytest

from apps.stock import commands as stock
from apps.stock.inputs import LevelFields
from apps.supply import commands
from apps.supply.inputs import LineWanted
from foundation import clock
from foundation.moments import to_datetime
from tests.apps.conftest import MONDAY, Storekeeper, at, lies

pytestmark = pytest.mark.django_db
SUMMED = ("on_hand", "reserved", "free")


def how():
    return {"actor": Storekeeper(), "now": clock.now()}


def test_the_list_adds_up_what_lies_in_each_place(world, yard, as_role):
    lies(world.ines, "door-roller", 3)
    start = to_datetime(at(10, day=MONDAY + timedelta(days=1)))
    world.visit(technician=world.ines, start=start, state="placed", takes={"door-roller": 2})
    order = commands.new_proposal(
        **how(), supplier_id=yard.supplier.pk, place_id=yard.north.pk,
        lines=[LineWanted(code="door-roller", quantity=4, price=None)],
    )  # fmt: skip
    commands.send_order(**how(), order_id=order.pk, version=order.version)
    stock.set_level(
        **how(), place_id=yard.south.pk, code="door-roller", version=None, fields=LevelFields(least=20, target=30)
    )
    api = as_role("dispatcher")
    rows = {row["code"]: row for row in api.get("/part-list").json()["rows"]}
    assert rows["door-roller"]["figures"]["reserved"] == 2
    assert rows["door-roller"]["below"] == 1
    for code, row in rows.items():
        levels = [level["figures"] for level in api.get(f"/parts/{code}/levels").json()]
        for name in SUMMED:
            assert row["figures"][name] == sum(level[name] for level in levels), (code, name)
        coming = [one["quantity"] for level in levels for one in level["coming"]]
        assert sum(one["quantity"] for one in row["figures"]["coming"]) == sum(coming), code
    below = [row["code"] for row in api.get("/part-list?only=below").json()["rows"]]
    assert below == ["door-roller"]

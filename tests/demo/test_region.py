"""The generated region: the same seed gives the same island, and it is the one that is shipped."""

import json
from pathlib import Path

import pytest

from core.roads import network_from_geojson
from demo.generator.collections import make_region

SHIPPED = Path(__file__).parents[2] / "demo" / "region"


@pytest.fixture(scope="module")
def region():
    return make_region()


def test_the_same_seed_gives_the_same_region_and_it_is_the_shipped_one(region):
    for name, collection in region.items():
        shipped = json.loads((SHIPPED / f"{name}.geojson").read_text())
        assert json.loads(json.dumps(collection)) == shipped


def test_another_seed_gives_another_region(region):
    assert make_region(seed=48)["roads"] != region["roads"]


def test_two_rivers_three_bridges_a_ring_road_ten_districts_three_villages(region):
    roads = [feature["properties"] for feature in region["roads"]["features"]]
    land = [feature["properties"] for feature in region["land"]["features"]]
    assert len([row for row in land if row["kind"] == "river"]) == 2
    assert {row["name"] for row in roads if row["class"] == "bridge"} == {"Quay Bridge", "Salt Bridge", "Lock Bridge"}
    assert "Ring Road" in {row["name"] for row in roads}
    assert len(region["areas"]["features"]) == 13


def test_nearly_all_roads_hang_together(region):
    network = network_from_geojson(region["roads"])
    assert network.dropped < 0.01 * len(network.tail)

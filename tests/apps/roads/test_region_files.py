"""A region from the interface: towns told apart by boundaries, and the old region kept until the new one is there."""

from datetime import timedelta
from pathlib import Path

import osmium
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from osmium.osm.mutable import Node, Relation, Way

from apps.company.models import Area
from apps.customers.models import Site
from apps.roads import files, queries, region
from apps.roads.bringing import bring_in
from apps.roads.models import RegionFile
from core.basics import Place
from foundation import clock

pytestmark = pytest.mark.django_db
# Two towns side by side, each with a Mill Lane, joined by a road.
NODES = {
    1: (0.000, 0.005), 2: (0.009, 0.005), 3: (0.020, 0.005), 4: (0.029, 0.005),
    11: (-0.001, 0.0), 12: (0.014, 0.0), 13: (0.014, 0.01), 14: (-0.001, 0.01), 15: (0.031, 0.0), 16: (0.031, 0.01),
}  # fmt: skip
WAYS = {
    20: ([1, 2], {"highway": "residential", "name": "Mill Lane"}),
    21: ([2, 3], {"highway": "primary", "name": "Long Road"}),
    22: ([3, 4], {"highway": "residential", "name": "Mill Lane"}),
    30: ([11, 12, 13, 14, 11], {}),
    31: ([12, 15, 16, 13, 12], {}),
}
HOUSES = [((0.001, 0.0051), "4", "7001"), ((0.002, 0.0051), "6", "7001"), ((0.021, 0.0051), "4", "7002")]


@pytest.fixture
def towns(tmp_path):
    path = tmp_path / "towns.osm.pbf"
    with osmium.SimpleWriter(str(path), overwrite=True) as writer:
        for number, place in NODES.items():
            writer.add_node(Node(id=number, location=place))
        for number, (place, house, code) in enumerate(HOUSES, start=100):
            tags = {"addr:street": "Mill Lane", "addr:housenumber": house, "addr:postcode": code}
            writer.add_node(Node(id=number, location=place, tags=tags))
        for number, (nodes, tags) in WAYS.items():
            writer.add_way(Way(id=number, nodes=nodes, tags=tags))
        for number, (way, name) in enumerate(((30, "Westford"), (31, "Eastford")), start=40):
            tags = {"type": "boundary", "boundary": "administrative", "admin_level": "8", "name": name}
            writer.add_relation(Relation(id=number, members=[("w", way, "outer")], tags=tags))
    return path


@pytest.fixture
def own(settings, tmp_path):
    settings.REGION_FOLDER, settings.DEMO = None, False
    settings.OWN_REGION_FOLDER = tmp_path / "region"
    settings.MEDIA_ROOT = tmp_path / "files"
    return settings


def test_streets_of_one_name_are_told_apart_by_town_and_postcode(towns, own):
    lines = bring_in(towns)
    assert "2 boundaries of districts and towns" in lines
    book = region.address_book()
    found = book.search("Mill Lane 4")
    assert {match.address.text for match in found} == {"Mill Lane 4, 7001 Westford", "Mill Lane 4, 7002 Eastford"}
    assert [match.address.text for match in book.search("mill lane 4 7002")] == ["Mill Lane 4, 7002 Eastford"]
    assert book.search("Mill Lane 4, 7002 Eastford")[0].place == Place(0.021, 0.0051)
    assert book.search("Mill Lane 6 Eastford")[0].missing == 6  # there is no number 6 in that town


def test_the_region_is_another_one_at_once(towns, own):
    shipped = region.network().fingerprint
    assert not region.is_own()
    bring_in(towns)
    assert region.is_own()
    assert region.network().fingerprint != shipped
    assert queries.find_addresses("Mill Lane 4 Westford")[0].likeness > 95


def test_driving_is_that_of_the_new_roads_at_once(world, towns, own):
    """The same two places, asked for before and after: nothing of the old roads is kept."""
    here, there = Place(0.001, 0.005), Place(0.028, 0.005)
    before = queries.travel_among([here, there])
    assert before.leg(0, 1, 0).estimated  # far from the shipped city
    bring_in(towns)
    after = queries.travel_among([here, there])
    assert not after.leg(0, 1, 0).estimated
    assert after.leg(0, 1, 0).seconds != before.leg(0, 1, 0).seconds


def test_a_browser_is_told_that_the_map_is_another_one(world, dispatcher, towns, own):
    shown = dispatcher.client.get("/api/v1/roads/map/roads")
    again = dispatcher.client.get("/api/v1/roads/map/roads", headers={"If-None-Match": shown["ETag"]})
    assert (again.status_code, again.content) == (304, b"")
    bring_in(towns)
    other = dispatcher.client.get("/api/v1/roads/map/roads", headers={"If-None-Match": shown["ETag"]})
    assert (other.status_code, len(other.json()["features"])) == (200, 3)


def sent(api, path: Path, name="towns.osm.pbf"):
    file = SimpleUploadedFile("part", path.read_bytes())
    api.client.post("/api/v1/uploads/0123-abcd", {"at": 0, "file": file})
    return api.post("/roads/region", {"key": "0123-abcd", "name": name})


def test_an_extract_is_sent_brought_in_and_reported(world, as_role, towns, own):
    admin = as_role("administrator")
    asked = sent(admin, towns)
    assert (asked.status_code, asked.json()["state"]) == (201, "waiting")
    assert sent(admin, towns).status_code == 409  # one at a time
    files.work(asked.json()["id"])
    shown = admin.get("/roads/region").json()
    assert (shown["is_own"], shown["houses"], shown["last"]["state"]) == (True, 3, "done")
    assert "3 house numbers in 2 streets" in shown["last"]["report"]
    assert [(row["name"], row["level"]) for row in shown["boundaries"]] == [("Eastford", 8), ("Westford", 8)]
    assert not list((own.MEDIA_ROOT / "parts").glob("*.pbf"))  # what was sent is thrown away


def test_a_bad_extract_leaves_the_region_as_it_was(world, as_role, towns, own, tmp_path):
    bring_in(towns)
    before = (own.OWN_REGION_FOLDER / "roads.geojson").read_bytes()
    bad = tmp_path / "bad.osm.pbf"
    bad.write_bytes(b"no map")
    asked = as_role("administrator").post("/roads/region", {"path": str(bad)})
    files.work(asked.json()["id"])
    row = RegionFile.objects.get()
    assert (row.state, row.failure.endswith("The region stays as it was.")) == ("failed", True)
    assert (own.OWN_REGION_FOLDER / "roads.geojson").read_bytes() == before
    assert bad.exists()  # it is not ours to throw away


@pytest.mark.parametrize("path", ["towns.osm.pbf", "/etc/passwd", "/nowhere/towns.osm.pbf", ""])
def test_only_an_extract_by_its_whole_path_is_taken(world, as_role, own, path):
    answer = as_role("administrator").post("/roads/region", {"path": path})
    assert (answer.status_code, answer.json()["field"]) == (422, "path")


def test_a_demo_stays_in_its_city_and_only_administrators_move_a_company(world, as_role, settings, towns, own):
    assert as_role("manager").post("/roads/region", {"path": str(towns)}).status_code == 403
    settings.DEMO = True
    assert as_role("administrator").post("/roads/region", {"path": str(towns)}).status_code == 422


def test_what_was_begun_and_never_ended_says_so(world, as_role, towns, own):
    as_role("administrator").post("/roads/region", {"path": str(towns)})
    RegionFile.objects.update(state="running")
    assert files.sweep(now=clock.now() + timedelta(hours=7)) == 1
    files.work(RegionFile.objects.get().pk)  # comes late: nothing happens
    assert RegionFile.objects.get().state == "failed"


def test_boundaries_become_areas_and_sites_find_theirs(world, as_role, towns, own):
    bring_in(towns)
    Site.objects.filter(pk=world.site.pk).update(lon=0.021, lat=0.005)
    admin = as_role("administrator")
    answer = admin.post("/areas/from-boundaries", {"numbers": [0, 1]})
    assert answer.json() == {"made": 2, "problems": ["1 sites now lie in another area"]}
    world.site.refresh_from_db()
    assert world.site.area == Area.objects.get(name="Eastford")
    assert admin.post("/areas/from-boundaries", {"numbers": [2]}).json()["field"] == "numbers"


def test_sites_off_the_map_are_listed_with_where_they_may_be(world, as_role, towns, own):
    bring_in(towns)
    Site.objects.filter(pk=world.site.pk).update(lon=9, lat=9, address="Mill Lane 4, 7001 Westford")
    found = as_role("administrator").get("/sites/off-the-map").json()
    assert (found["count"], found["sites"][0]["suggestion"]) == (1, "Mill Lane 4, 7001 Westford")
    assert found["sites"][0]["kilometres"] > 1000
    Site.objects.filter(pk=world.site.pk).update(lon=0.001, lat=0.005)
    assert as_role("administrator").get("/sites/off-the-map").json()["count"] == 0


def test_of_a_large_region_the_map_draws_the_main_roads(towns, own, monkeypatch):
    bring_in(towns)
    assert len(queries.map_layer("roads")["features"]) == 3
    monkeypatch.setattr(queries, "DRAWN_ROADS", 2)
    assert [row["properties"]["name"] for row in queries.map_layer("roads")["features"]] == ["Long Road"]

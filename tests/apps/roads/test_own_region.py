"""A region of one's own: roads from OpenStreetMap extracts, areas and sites from GeoJSON."""

import json

import osmium
import pytest
from django.core.management import CommandError, call_command

from apps.company.models import Area
from apps.customers.models import Site
from apps.roads import region
from apps.roads.openstreetmap import read_houses, read_roads
from core.basics import Place
from core.roads import BadRegion, Period, compute_matrix

NODES = {1: (0.0, 0.0), 2: (0.01, 0.0), 3: (0.02, 0.0), 4: (0.01, 0.01), 5: (0.5, 0.5), 6: (0.51, 0.5)}
WAYS = [
    ((1, 2, 3), {"highway": "residential", "name": "Rope Lane"}),
    ((2, 4), {"highway": "primary", "maxspeed": "30 mph", "oneway": "yes", "name": "Hill Road"}),
    ((1, 4), {"highway": "footway"}),
    ((3, 4), {"highway": "service", "access": "private"}),
    ((5, 6), {"highway": "tertiary", "name": "Far Away"}),
]


def extract(path, ways=WAYS, houses=()):
    """A tiny extract, as XML or as PBF by the file's name."""
    with osmium.SimpleWriter(str(path), overwrite=True) as writer:
        for number, (lon, lat) in NODES.items():
            writer.add_node(osmium.osm.mutable.Node(id=number, location=(lon, lat)))
        for number, (place, tags) in enumerate(houses, start=100):
            writer.add_node(osmium.osm.mutable.Node(id=number, location=place, tags=tags))
        for number, (nodes, tags) in enumerate(ways, start=10):
            writer.add_way(osmium.osm.mutable.Way(id=number, nodes=list(nodes), tags=tags))
    return path


@pytest.mark.parametrize("suffix", [".osm", ".osm.pbf"])
def test_roads_are_cut_where_they_meet(tmp_path, suffix):
    collection, network, report = read_roads(extract(tmp_path / f"tiny{suffix}"))
    lane = [f for f in collection["features"] if f["properties"]["name"] == "Rope Lane"]
    assert [f["geometry"]["coordinates"] for f in lane] == [[[0, 0], [0.01, 0]], [[0.01, 0], [0.02, 0]]]
    assert len(network.tail) == 3
    assert report.dropped == {
        "ways not for cars (footway)": 1,
        "roads closed to cars": 1,
        "segments apart from the largest connected part": 1,
    }


def test_speed_limits_and_one_way_count(tmp_path):
    _collection, network, _report = read_roads(extract(tmp_path / "tiny.osm"))
    up, hill = Place(0.0, 0.0), Place(0.01, 0.01)
    matrix = compute_matrix(network, [up, hill])
    # 1,112 m of lane at 30 km/h, 1,112 m of hill at 30 miles an hour, at night.
    assert matrix.seconds[Period.NIGHT, 0, 1] == pytest.approx(1112 / (30 / 3.6) + 1112 / (48.28 / 3.6), abs=3)
    assert matrix.estimated[1, 0]  # nothing leads down again


def house(number, street="Rope Lane"):
    return {"addr:street": street, "addr:housenumber": number}


def test_house_numbers_are_read_from_points_and_buildings(tmp_path):
    ways = [*WAYS, ((1, 2, 4, 1), house("20"))]
    houses = [((0.001, 0.0001), house("4a")), ((0.002, 0.0001), house("4b")), ((0.003, 0.0001), house("Gatehouse"))]
    found = read_houses(extract(tmp_path / "houses.osm", ways, houses))
    [lane] = found["features"]
    assert lane["properties"] == {"street": "Rope Lane", "district": "", "postcode": "", "numbers": [4, 20]}
    assert lane["geometry"]["coordinates"] == [[0.001, 0.0001], [0.006667, 0.003333]]


def test_a_region_that_is_brought_in_finds_its_houses(tmp_path, settings):
    settings.OWN_REGION_FOLDER = settings.REGION_FOLDER = tmp_path / "region"
    call_command("import_roads", extract(tmp_path / "one.osm", houses=[((0.001, 0.0001), house("4"))]), verbosity=0)
    [match] = region.address_book().search("Rope Lane 4")
    assert (match.place, match.missing) == (Place(0.001, 0.0001), 0)


@pytest.mark.parametrize("content", [b"", b"<osm version='0.6'></osm>", b"not a map at all"])
def test_a_bad_or_empty_extract_says_so(tmp_path, content):
    path = tmp_path / "bad.osm"
    path.write_bytes(content)
    with pytest.raises(BadRegion):
        read_roads(path)


def test_a_bad_file_leaves_the_old_network(tmp_path, settings):
    settings.OWN_REGION_FOLDER = tmp_path / "region"
    call_command("import_roads", extract(tmp_path / "good.osm"), verbosity=0)
    before = (tmp_path / "region" / "roads.geojson").read_bytes()
    (tmp_path / "bad.osm").write_text("nonsense")
    with pytest.raises(CommandError, match="stay as they were"):
        call_command("import_roads", tmp_path / "bad.osm")
    with pytest.raises(CommandError, match="There is no file"):
        call_command("import_roads", tmp_path / "missing.osm")
    assert (tmp_path / "region" / "roads.geojson").read_bytes() == before
    assert json.loads((tmp_path / "region" / "areas.geojson").read_text())["features"] == []


def square(name, west, south, size=0.2):
    corners = [[west, south], [west + size, south], [west + size, south + size], [west, south + size], [west, south]]
    return {"type": "Feature", "properties": {"name": name}, "geometry": {"type": "Polygon", "coordinates": [corners]}}


@pytest.mark.django_db
def test_areas_are_taken_and_sites_find_theirs(world, tmp_path):
    site = Site.objects.order_by("id").first()
    tight = square("Tight", site.lon - 0.0005, site.lat - 0.0005, 0.001)
    path = tmp_path / "areas.geojson"
    path.write_text(json.dumps({"type": "FeatureCollection", "features": [tight]}))
    call_command("import_areas", path, verbosity=0)
    site.refresh_from_db()
    assert site.area.name == "Tight"


@pytest.mark.django_db
def test_a_bad_area_changes_nothing(world, tmp_path):
    before = set(Area.objects.values_list("name", flat=True))
    path = tmp_path / "areas.geojson"
    nameless = square("", 0, 0)
    path.write_text(json.dumps({"type": "FeatureCollection", "features": [square("Fine", 0, 0), nameless]}))
    with pytest.raises(CommandError, match="no name"):
        call_command("import_areas", path)
    assert set(Area.objects.values_list("name", flat=True)) == before


@pytest.mark.django_db
def test_sites_are_made_from_points_once(world, tmp_path, capsys):
    def point(**properties):
        geometry = {"type": "Point", "coordinates": [-24.6, 47.2]}
        return {"type": "Feature", "properties": properties, "geometry": geometry}

    path = tmp_path / "sites.geojson"
    features = [point(name="North gate", customer="Marram Ferries", address="Pier 1"), point(name="Nobody's")]
    path.write_text(json.dumps({"type": "FeatureCollection", "features": features}))
    call_command("import_sites", path)
    call_command("import_sites", path)
    assert Site.objects.filter(name="North gate", customer__name="Marram Ferries").count() == 1
    said = capsys.readouterr().out
    assert "needs a name and a customer" in said
    assert "already" in said

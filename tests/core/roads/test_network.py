"""The road graph: building, travel times, paths."""

import json
from pathlib import Path

import numpy as np
import pytest
import shapely

from core.basics import Place, straight_metres
from core.roads import (
    BadRegion,
    Errand,
    Period,
    compute_matrix,
    extend_matrix,
    network_from_geojson,
    path_between,
    paths_between,
)
from core.roads.matrix import ESTIMATE_DETOUR, ESTIMATE_METRES_PER_SECOND

REGION = json.loads((Path(__file__).parents[3] / "demo" / "region" / "roads.geojson").read_text())
# About 75.7 m east and 111.2 m north per thousandth of a degree here.
LON, LAT = -24.6, 47.2


def road(*points, kind="lane", speed=36, **more):
    coordinates = [[LON + x / 1000, LAT + y / 1000] for x, y in points]
    properties = {"class": kind, "speed_kmh": speed, **more}
    geometry = {"type": "LineString", "coordinates": coordinates}
    return {"type": "Feature", "geometry": geometry, "properties": properties}


def network(*roads):
    return network_from_geojson({"type": "FeatureCollection", "features": list(roads)})


def place(x, y):
    return Place(LON + x / 1000, LAT + y / 1000)


# A straight street of 20 thousandths of a degree north: 2224 m.
STREET = (road((0, 0), (0, 10), kind="street"), road((0, 10), (0, 20), kind="street"))


def test_travel_takes_length_over_speed_and_the_period_s_share():
    matrix = compute_matrix(network(*STREET), [place(0, 0), place(0, 20)])
    assert matrix.metres[0, 1] == pytest.approx(2224, abs=3)
    # 36 km/h is 10 m/s; by day a street keeps 85 % of it, in the morning peak 75 %.
    assert matrix.seconds[Period.NIGHT, 0, 1] == pytest.approx(222.4, abs=2)
    assert matrix.seconds[Period.DAY, 0, 1] == pytest.approx(222.4 / 0.85, abs=2)
    assert matrix.seconds[Period.MORNING_PEAK, 0, 1] == pytest.approx(222.4 / 0.75, abs=2)


def test_places_between_junctions_are_reached_along_their_segment():
    matrix = compute_matrix(network(*STREET), [place(0, 2), place(0, 7)])
    assert matrix.metres[0, 1] == pytest.approx(556, abs=3)


def test_a_one_way_street_has_to_be_gone_around():
    square = network(
        road((0, 0), (0, 10), oneway=True), road((0, 10), (10, 10)), road((10, 10), (10, 0)), road((10, 0), (0, 0))
    )
    matrix = compute_matrix(square, [place(0, 2), place(0, 8)])
    there, back = matrix.metres[0, 1], matrix.metres[1, 0]
    assert there == pytest.approx(667, abs=5)
    assert back > 3 * there


def test_a_place_far_off_any_road_gets_a_flagged_estimate():
    matrix = compute_matrix(network(*STREET), [place(0, 0), place(0, 20), place(40, 10)])
    assert matrix.estimated[0, 2]
    assert matrix.estimated[2, 1]
    assert not matrix.estimated[0, 1]
    assert matrix.seconds[Period.DAY, 0, 2] > 0


def test_a_place_a_little_off_the_road_costs_the_way_to_it():
    near = compute_matrix(network(*STREET), [place(0, 0), place(0, 10)])
    off = compute_matrix(network(*STREET), [place(0, 0), place(2, 10)])
    assert not off.estimated.any()
    assert off.seconds[Period.DAY, 0, 1] > near.seconds[Period.DAY, 0, 1]


def test_what_no_road_leads_to_against_the_traffic_is_estimated():
    dead_end = network(road((0, 0), (0, 10)), road((0, 10), (0, 20), oneway=True))
    matrix = compute_matrix(dead_end, [place(0, 2), place(0, 19)])
    assert not matrix.estimated[0, 1]
    assert matrix.estimated[1, 0]


def test_of_unconnected_parts_the_largest_is_kept_and_the_rest_counted():
    graph = network(*STREET, road((30, 30), (31, 31)))
    assert len(graph.tail) == 2
    assert graph.dropped == 1


@pytest.mark.parametrize(
    "features",
    [
        [],
        [{"type": "Feature", "geometry": {"type": "Point", "coordinates": [0, 0]}, "properties": {}}],
        [road((0, 0), (0, 1), kind="canal")],
        [road((0, 0), (0, 1), speed=0)],
    ],
)
def test_a_file_without_a_usable_road_is_refused_with_a_sentence(features):
    with pytest.raises(BadRegion, match="holds no road"):
        network(*features)


def test_an_extended_matrix_is_the_one_computed_whole():
    graph = network_from_geojson(REGION)
    random = np.random.default_rng(3)
    places = [Place(LON + float(x), LAT + float(y)) for x, y in random.uniform(-0.03, 0.04, (14, 2))]
    whole = compute_matrix(graph, places)
    grown = extend_matrix(graph, compute_matrix(graph, places[:9]), places)
    assert grown.places == whole.places
    assert np.abs(grown.seconds.astype(int) - whole.seconds.astype(int)).max() <= 1
    assert np.abs(grown.metres.astype(int) - whole.metres.astype(int)).max() <= 2
    assert (grown.estimated == whole.estimated).all()


def test_some_places_of_a_matrix_are_as_far_apart_as_in_it():
    graph = network_from_geojson(REGION)
    places = [Place(LON + 0.01 * number, LAT) for number in range(5)]
    whole = compute_matrix(graph, places)
    some = whole.only([places[4], places[1]])
    assert some.places == (places[4], places[1])
    assert some.seconds[:, 0, 1].tolist() == whole.seconds[:, 4, 1].tolist()
    assert some.metres[1, 0] == whole.metres[1, 4]
    assert some.estimated[0, 1] == whole.estimated[4, 1]


def test_drives_that_need_more_bytes_get_them():
    across = [place(0, 0), Place(LON + 60, LAT), Place(LON + 61, LAT)]
    near = compute_matrix(network(*STREET), [place(0, 0), place(0, 20)])
    far = compute_matrix(network(*STREET), across)
    grown = extend_matrix(network(*STREET), near, across)
    assert near.seconds.dtype == np.uint16
    expected = straight_metres(across[0], across[1]) * ESTIMATE_DETOUR / ESTIMATE_METRES_PER_SECOND
    assert far.seconds[Period.DAY, 0, 1] == pytest.approx(expected, abs=1)
    assert grown.seconds[Period.DAY, 0, 2] == far.seconds[Period.DAY, 0, 1]
    assert grown.seconds[Period.DAY, 0, 1] == near.seconds[Period.DAY, 0, 1]


def test_travel_never_beats_a_detour_over_another_place():
    graph = network_from_geojson(REGION)
    random = np.random.default_rng(5)
    places = [Place(LON + float(x), LAT + float(y)) for x, y in random.uniform(-0.02, 0.03, (14, 2))]
    on_roads = [place for place in places if graph.snap([place])[0].off_metres < 300]
    matrix = compute_matrix(graph, on_roads)
    assert len(on_roads) > 5
    assert not matrix.estimated.any()
    seconds = matrix.seconds[Period.DAY].astype(int)
    legs = seconds[:, :, None] + seconds[None, :, :]
    # Two roundings up, one second each, stand against one.
    assert (seconds <= legs.min(axis=1) + 2).all()


def test_a_path_runs_from_door_to_door_and_is_as_long_as_the_matrix_says():
    graph = network_from_geojson(REGION)
    origin, destination = Place(-24.63, 47.215), Place(-24.56, 47.22)
    path = path_between(graph, origin, destination, Period.DAY)
    assert path.points[0] == (origin.lon, origin.lat)
    assert path.points[-1] == (destination.lon, destination.lat)
    flat = graph.flat(np.array(path.points[1:-1]))
    drawn = np.hypot(*np.diff(flat, axis=0).T).sum()
    metres = compute_matrix(graph, [origin, destination]).metres[0, 1]
    assert drawn == pytest.approx(metres, rel=0.02)


def test_the_path_to_an_island_is_a_flagged_straight_line():
    path = path_between(network(*STREET), place(0, 0), place(60, 60), Period.DAY)
    assert path.estimated
    assert len(path.points) == 2


def test_the_bridges_are_the_bottlenecks():
    graph = network_from_geojson(REGION)
    west, east = Place(-24.6183, 47.2), Place(-24.598, 47.2)
    path = path_between(graph, west, east, Period.MORNING_PEAK)
    bridges = [i for i, kind in enumerate(graph.classes) if kind == "bridge"]
    flat = graph.flat(np.array(path.points))
    line = shapely.LineString(flat)
    assert any(line.distance(graph.lines[i]) < 1 for i in bridges)
    assert len({graph.names[i] for i in bridges}) == 3


# --- street by street ---------------------------------------------------------------------------------

# A cross: Low Street runs east, Hill Street goes north from its middle, Back Street west again.
CROSS = (
    road((0, 0), (5, 0), name="Low Street"),
    road((5, 0), (10, 0), name="Low Street"),
    road((5, 0), (5, 4), name="Hill Street"),
    road((5, 4), (1, 4), name="Back Street"),
    road((5, 4), (9, 8)),
)


def ways(origin, destination):
    path = path_between(network(*CROSS), place(*origin), place(*destination), Period.DAY)
    return [(way.turn, way.street) for way in path.ways], [way.metres for way in path.ways]


def test_a_way_heads_somewhere_and_then_turns():
    turns, metres = ways((1, 0), (3, 4))
    assert turns == [("head east", "Low Street"), ("left", "Hill Street"), ("left", "Back Street")]
    assert metres == [pytest.approx(4 * 75.7, abs=3), pytest.approx(4 * 111.2, abs=3), pytest.approx(2 * 75.7, abs=3)]


def test_the_same_way_back_turns_the_other_way():
    turns, _ = ways((3, 4), (1, 0))
    assert turns == [("head east", "Back Street"), ("right", "Hill Street"), ("right", "Low Street")]


def test_pieces_of_one_street_are_one_way():
    turns, metres = ways((1, 0), (9, 0))
    assert turns == [("head east", "Low Street")]
    assert metres == [pytest.approx(8 * 75.7, abs=3)]


def test_a_road_without_a_name_is_a_way_all_the_same():
    turns, _ = ways((5, 1), (8, 7))
    assert turns == [("head north", "Hill Street"), ("right", "")]


def test_where_there_is_no_road_there_are_no_ways():
    assert path_between(network(*STREET), place(0, 0), place(60, 60), Period.DAY).ways == ()


def test_many_roads_at_once_are_those_found_one_by_one():
    graph = network_from_geojson(REGION)
    random = np.random.default_rng(8)
    places = [Place(LON + float(x), LAT + float(y)) for x, y in random.uniform(-0.03, 0.04, (6, 2))]
    errands = [
        Errand(origin=one, destination=two, period=period)
        for one, two in zip(places, [*places[1:], places[0]], strict=True)
        for period in (Period.MORNING_PEAK, Period.DAY)
    ]
    errands.append(Errand(origin=places[0], destination=places[0], period=Period.DAY))

    def shape(path):
        return path.estimated, path.points[0], path.points[-1], [(way.street, way.turn) for way in path.ways]

    together = paths_between(graph, errands)
    alone = [path_between(graph, row.origin, row.destination, row.period) for row in errands]
    assert [shape(path) for path in together] == [shape(path) for path in alone]
    assert [sum(way.metres for way in path.ways) for path in together] == pytest.approx(
        [sum(way.metres for way in path.ways) for path in alone], abs=8
    )
    assert together[-1].points == ((places[0].lon, places[0].lat),)

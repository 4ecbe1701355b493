"""Addresses by typing and back, and areas of a point."""

import json
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from core.basics import Place, straight_metres
from core.roads import AddressBook, AreaIndex

REGION = Path(__file__).parents[3] / "demo" / "region"
ROADS, HOUSES = (json.loads((REGION / f"{name}.geojson").read_text()) for name in ("roads", "houses"))
BOOK = AddressBook(ROADS, HOUSES)
AREAS = {
    feature["properties"]["name"]: feature["geometry"]
    for feature in json.loads((REGION / "areas.geojson").read_text())["features"]
}
STREET, DISTRICT, LAST = max(BOOK.addresses(), key=lambda row: row[2])


def best(text):
    return BOOK.search(text)[0].address


def test_an_address_as_it_is_written():
    found = best(f"{STREET} 14, {DISTRICT}")
    assert (found.street, found.number, found.district) == (STREET, 14, DISTRICT)


@pytest.mark.parametrize(
    "typed",
    [
        f"14 {STREET}",
        f"{DISTRICT}, {STREET} 14",
        f"{STREET.upper()} 14",
        f"{STREET[:3]}{STREET[4:]} 14 {DISTRICT}",
    ],
)
def test_other_orders_and_misspellings_are_understood(typed):
    assert (best(typed).street, best(typed).number) == (STREET, 14)


def test_nonsense_finds_nothing():
    assert BOOK.search("qqqq zzzz") == []
    assert BOOK.search("  ") == []


def test_a_number_past_the_end_is_less_sure_and_the_nearest_one():
    [match] = BOOK.search(f"{STREET} {LAST + 500}, {DISTRICT}")
    assert match.address.number == LAST
    assert match.likeness < 90


def test_odd_and_even_numbers_lie_on_opposite_sides():
    odd, even = (BOOK.search(f"{STREET} {number}, {DISTRICT}")[0].place for number in (21, 22))
    assert 20 < straight_metres(odd, even) < 40


@settings(max_examples=60)
@given(st.integers(0, len(BOOK.addresses()) - 1), st.integers(1, 400))
def test_an_address_found_is_found_again_from_its_place(index, number):
    street, district, last = BOOK.addresses()[index]
    match = BOOK.search(f"{street} {min(number, last)}, {district}")[0]
    back = BOOK.reverse(match.place)
    assert straight_metres(back.place, match.place) < 40


def lane(numbers=(), district=""):
    road = {
        "type": "Feature", "properties": {"name": "Rope Lane", "district": district},
        "geometry": {"type": "LineString", "coordinates": [[0, 0], [0.01, 0]]},
    }  # fmt: skip
    houses = {
        "type": "Feature", "properties": {"street": "Rope Lane", "district": "", "numbers": list(numbers)},
        "geometry": {"type": "MultiPoint", "coordinates": [[number / 10_000, 0.0001] for number in numbers]},
    }  # fmt: skip
    return AddressBook({"features": [road]}, {"features": [houses]} if numbers else None)


def test_only_houses_that_are_known_have_a_place_of_their_own():
    [match] = lane([3, 8, 40]).search("Rope Lane 8")
    assert (match.address.number, match.place, match.missing) == (8, Place(0.0008, 0.0001), 0)
    [match] = lane([3, 8, 40]).search("Rope Lane 10")
    assert (match.address.number, match.missing, match.likeness) == (8, 10, 85)


def test_where_no_number_is_known_the_street_is_and_what_was_typed_is_kept():
    [match] = lane().search("Rope Lane 12")
    assert (match.address.text, match.place, match.missing) == ("Rope Lane 12", Place(0.005, 0.0), 0)
    assert lane().reverse(Place(0.002, 0.0)).address.text == "Rope Lane"


def test_numbers_without_a_district_belong_to_the_street_of_that_name():
    [match] = lane([7], district="Old Quay").search("Rope Lane 7, Old Quay")
    assert (match.address.text, match.missing) == ("Rope Lane 7, Old Quay", 0)


def test_away_from_any_house_there_is_only_the_street():
    assert lane([3]).reverse(Place(0.0003, 0.0002)).address.number == 3
    assert lane([3]).reverse(Place(0.008, 0.0)).address.number == 0


def test_an_empty_map_has_no_addresses():
    empty = AddressBook({"features": []})
    assert empty.search("Mill Lane 3") == []
    assert empty.reverse(Place(0, 0)) is None


def square(size):
    ring = [[-size, -size], [size, -size], [size, size], [-size, size], [-size, -size]]
    return {"type": "Polygon", "coordinates": [ring]}


def test_of_areas_within_each_other_the_smallest_counts():
    index = AreaIndex({"large": square(10), "small": square(1)})
    assert index.at(Place(0.5, 0.5)) == "small"
    assert index.at(Place(5, 5)) == "large"
    assert index.at(Place(50, 50)) is None


def test_districts_of_the_demo_hold_their_own_streets():
    index = AreaIndex(AREAS)
    right = [
        index.at(BOOK.search(f"{street} {max(1, last // 2)}, {district}")[0].place) == district
        for street, district, last in BOOK.addresses()
        if last > 20 and district
    ]
    assert sum(right) / len(right) > 0.95


def test_a_shape_that_is_no_polygon_is_refused():
    with pytest.raises(ValueError, match="Mudflat"):
        AreaIndex({"Mudflat": {"type": "Point", "coordinates": [0, 0]}})


@pytest.mark.parametrize(("lon", "lat"), [(181, 0), (0, 91), (float("nan"), 0)])
def test_places_off_the_globe_cannot_exist(lon, lat):
    with pytest.raises(ValueError, match="not a place"):
        Place(lon, lat)

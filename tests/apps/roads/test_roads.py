"""The region of this installation: travel times that are kept, addresses, the map."""

from collections import OrderedDict

import numpy as np
import pytest

from apps.roads import queries as road_queries
from apps.roads import travel
from apps.roads.queries import find_addresses, travel_among
from apps.roads.region import network
from core.basics import Place
from core.roads import Address, Match, Period, TravelMatrix
from core.roads.matrix import NOWHERE, extend_matrix
from tests.apps.conftest import at


@pytest.fixture
def empty_cache(settings, tmp_path, monkeypatch):
    """A process that has not computed anything yet, with a folder of its own."""
    settings.CACHE_FOLDER = tmp_path
    monkeypatch.setattr(travel, "_matrix", NOWHERE)
    monkeypatch.setattr(travel, "_roads", None)  # put back together: a matrix belongs to its roads
    monkeypatch.setattr(travel, "_unsaved", 0)
    return tmp_path


def places(count):
    streets = ["Millrace Road", "Kilnfield Embankment", "Saltmarsh Embankment"]
    return [find_addresses(f"{streets[n % 3]} {5 + 7 * n}")[0].place for n in range(count)]


def new_process(monkeypatch):
    monkeypatch.setattr(travel, "_matrix", NOWHERE)


def test_what_was_computed_is_kept_for_the_next_process(empty_cache, monkeypatch):
    first = travel.matrix_holding(places(9))
    [file] = empty_cache.glob("travel-*.npz")
    assert network().fingerprint in file.name
    new_process(monkeypatch)
    monkeypatch.setattr(travel, "extend_matrix", lambda *_: pytest.fail("computed again"))
    second = travel.matrix_holding(places(9))
    assert second.places == first.places
    assert (second.seconds == first.seconds).all()


def test_one_more_place_is_added_without_computing_the_others_again(empty_cache, monkeypatch):
    known = travel.matrix_holding(places(9))
    asked = []
    monkeypatch.setattr(
        travel, "extend_matrix", lambda *args, **run: asked.append(args[2]) or extend_matrix(*args, **run)
    )
    grown = travel.matrix_holding([*places(9), Place(-24.61, 47.21)])
    assert len(grown.places) == 10
    assert (grown.seconds[:, :9, :9] == known.seconds).all()
    assert asked == [[Place(-24.61, 47.21)]]


def test_what_was_not_asked_for_longest_makes_room(empty_cache, settings):
    settings.TRAVEL_PLACES = 8
    first, second, third = places(9)[:3], places(9)[3:6], places(9)[6:]
    whole = travel.matrix_holding(first + second)
    travel.matrix_holding(first)
    held = travel.matrix_holding(third)
    assert len(held.places) == 8
    assert set(first) | set(third) <= set(held.places)
    pair = [whole.index[place] for place in first[:2]], [held.index[place] for place in first[:2]]
    assert whole.seconds[:, pair[0][0], pair[0][1]].tolist() == held.seconds[:, pair[1][0], pair[1][1]].tolist()
    assert set(second) <= set(travel.matrix_holding(second).places)


def test_more_places_than_are_kept_are_answered_all_the_same(empty_cache, settings):
    settings.TRAVEL_PLACES = 4
    assert set(places(9)) <= set(travel.matrix_holding(places(9)).places)


def test_places_are_numbered_in_the_order_in_which_they_are_asked_for(world, empty_cache):
    travel_among(places(5))
    asked = [places(9)[7], places(9)[2], places(9)[7]]
    there = travel_among(asked)
    assert there.places == (asked[0], asked[1])
    assert there.index == {asked[0]: 0, asked[1]: 1}
    tables = there.tables(start=at(0), end=at(23))
    held = there.matrix
    assert tables.seconds.shape == (5, 2, 2)
    assert (
        tables.metres[0, 1] == held.metres[held.index[asked[0]], held.index[asked[1]]] == there.leg(0, 1, at(10)).metres
    )


def test_an_unreadable_file_is_made_anew(empty_cache, monkeypatch):
    travel.matrix_holding(places(9))
    [file] = empty_cache.glob("travel-*.npz")
    file.write_bytes(b"half a file")
    new_process(monkeypatch)
    assert len(travel.matrix_holding(places(9)).places) == 9


def test_a_few_places_are_not_worth_writing(empty_cache):
    travel.matrix_holding(places(2))
    assert list(empty_cache.glob("*.npz")) == []


def test_asking_for_what_is_known_gives_the_same_matrix(empty_cache):
    everything = travel.matrix_holding(places(9))
    assert travel.matrix_holding(places(4)) is everything


def test_the_morning_peak_is_slower_than_the_night(world, empty_cache):
    there = travel_among(places(9))
    seconds = there.matrix.seconds.astype(np.int64)
    assert seconds[Period.MORNING_PEAK].sum() > 1.2 * seconds[Period.NIGHT].sum()


@pytest.mark.parametrize(("layer", "least"), [("roads", 3000), ("land", 5), ("areas", 13)])
def test_the_map_is_drawn_from_the_same_data(world, dispatcher, layer, least):
    answer = dispatcher.get(f"/roads/map/{layer}")
    assert answer["Cache-Control"] == "private, no-cache"
    assert len(answer.json()["features"]) >= least


def test_there_is_no_other_layer(world, dispatcher):
    assert dispatcher.get("/roads/map/secrets").status_code == 422


def test_an_address_says_which_area_it_lies_in(world, dispatcher):
    [found, *_] = dispatcher.get("/roads/addresses", text="millrace road 20").json()
    assert found["address"].startswith("Millrace Road 20")
    assert found["area"] in {area["name"] for area in dispatcher.get("/company").json()["areas"]}


def test_off_the_globe_there_are_no_addresses(world, dispatcher):
    assert dispatcher.get("/roads/address-at", lon=200, lat=47).status_code == 422


class Elsewhere:
    """A geocoder that knows one address."""

    found = Match(address=Address(street="Somewhere Road", number=1, district=""), place=Place(1.0, 2.0), likeness=100)

    def search(self, text, *, limit=8):
        return [self.found]

    def reverse(self, place):
        return self.found


def test_another_geocoder_takes_the_place_of_the_address_book(settings):
    settings.GEOCODER = f"{__name__}.Elsewhere"
    assert find_addresses("anything")[0].address.street == "Somewhere Road"


def far_apart(places):
    """A service for which everything is an hour apart."""
    count = len(places)
    hours = np.full((5, count, count), 3600, dtype=np.int32)
    table = np.full((count, count), 60_000, dtype=np.int32)
    return TravelMatrix(places=tuple(places), seconds=hours, metres=table, estimated=table < 0)


def test_another_service_takes_the_place_of_our_roads(settings, world):
    settings.TRAVEL = f"{__name__}.far_apart"
    travel = travel_among([Place(0.0, 0.0), Place(0.1, 0.1)])
    assert travel.leg(0, 1, 1_795_450_000).seconds == 3600


# --- roads through places ---------------------------------------------------------------------------------


def test_a_tour_follows_the_roads_through_its_places_in_order(world, dispatcher):
    stops = [[place.lon, place.lat] for place in places(3)]
    body = {"tours": [{"at": at(10), "points": stops}, {"at": at(10), "points": stops[:1]}]}
    there, alone = dispatcher.post("/roads/tours", body).json()
    assert there["points"][0] == stops[0]
    assert there["points"][-1] == stops[-1]
    assert stops[1] in there["points"]
    assert len(there["points"]) > 6
    assert alone["points"] == stops[:1]


def test_roads_taken_once_are_not_searched_again(world, dispatcher, monkeypatch):
    body = {"tours": [{"at": at(10), "points": [[place.lon, place.lat] for place in places(4)]}]}
    first = dispatcher.post("/roads/tours", body).json()
    monkeypatch.setattr(road_queries, "paths_between", lambda *_: pytest.fail("searched again"))
    assert dispatcher.post("/roads/tours", body).json() == first


def test_only_so_many_roads_are_kept(world, monkeypatch):
    monkeypatch.setattr(road_queries, "_kept", OrderedDict())
    monkeypatch.setattr(road_queries, "KEPT_PATHS", 2)
    one, two, three = places(3)
    road_queries.paths([(one, two, at(10)), (two, three, at(10)), (three, one, at(10))])
    assert len(road_queries._kept) == 2


@pytest.mark.parametrize("points", [[], [[200, 0]], [[0, 0]] * 61])
def test_a_tour_that_cannot_be_is_refused(world, dispatcher, points):
    assert dispatcher.post("/roads/tours", {"tours": [{"at": at(10), "points": points}]}).status_code == 422

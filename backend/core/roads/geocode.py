"""From typed addresses to places and back, over the streets of a region."""

import re
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Protocol

import numpy as np
import shapely
from rapidfuzz import fuzz, process, utils
from shapely.geometry import shape
from shapely.ops import linemerge

from core.basics import Place
from core.basics.places import EARTH_RADIUS_METRES

# So near to a house somebody is at it.
AT_HOUSE_METRES = 60.0
# How much less sure it is (of 100) that a number is meant that is not in its street; and where no number is known.
OTHER_NUMBER, NO_NUMBERS = 15.0, 5.0
# Below this likeness (0-100) a street is not what was meant.
LEAST_LIKENESS = 74.0


@dataclass(frozen=True, kw_only=True)
class Address:
    """A street address; `number` 0 stands for the street as a whole."""

    street: str
    number: int
    district: str
    postcode: str = ""

    @property
    def text(self) -> str:
        street = f"{self.street} {self.number}" if self.number else self.street
        place = " ".join(part for part in (self.postcode, self.district) if part)
        return f"{street}, {place}" if place else street


@dataclass(frozen=True, kw_only=True)
class Match:
    """An address that may be meant, its place, and how alike it is (0-100).

    `missing`: the house number that was typed and is not in that street; the place is then that of the nearest one.
    Of a street whose numbers nobody knows the place is its middle, whatever number was typed.
    """

    address: Address
    place: Place
    likeness: float
    missing: int = 0


class Geocoder(Protocol):
    """From typed addresses to places and back. The address book below, or a real service."""

    def search(self, text: str, *, limit: int = 8) -> list[Match]:
        """Addresses that may be meant, best first; tolerant of misspelling and order."""
        ...

    def reverse(self, place: Place) -> Match | None:
        """The address nearest to a place."""
        ...


@dataclass(frozen=True)
class _Street:
    name: str
    district: str
    line: shapely.LineString
    houses: Mapping[int, Place]
    postcode: str = ""

    @property
    def last_number(self) -> int:
        return max(self.houses, default=0)

    def nearest(self, number: int) -> int:
        return min(self.houses, key=lambda known: (abs(known - number), known))


class AddressBook:
    """All addresses of a region: its streets, and the houses that are known by number."""

    def __init__(self, streets: Mapping[str, Any], houses: Mapping[str, Any] | None = None) -> None:
        """
        Parameters
        ----------
        streets
            GeoJSON FeatureCollection of LineStrings with the properties `name` and `district`.
        houses
            GeoJSON FeatureCollection of MultiPoints with `street`, `district` and `numbers`, one for each point, and
            perhaps a `postcode`.
        """
        parts: defaultdict[tuple[str, str], list[shapely.LineString]] = defaultdict(list)
        for feature in streets.get("features", []):
            properties = feature.get("properties") or {}
            if properties.get("name"):
                key = (str(properties["name"]), str(properties.get("district") or ""))
                parts[key].append(shape(feature["geometry"]))
        lats = [line.coords[0][1] for lines in parts.values() for line in lines]
        lons = [line.coords[0][0] for lines in parts.values() for line in lines]
        per_degree = np.pi * EARTH_RADIUS_METRES / 180
        self._origin = np.array([np.mean(lons), np.mean(lats)]) if lats else np.zeros(2)
        self._scale = np.array([per_degree * np.cos(np.radians(self._origin[1])), per_degree])
        known, codes = _houses_by_street(houses or {})
        self._streets = []
        for (name, district), lines in sorted(parts.items()):
            key = (name, district) if (name, district) in known else (name, "")
            self._streets.append(_Street(name, district, self._longest(lines), known.get(key, {}), codes.get(key, "")))
        self._postcodes = {_plain(street.postcode): street.postcode for street in self._streets if street.postcode}
        self._labels = [_plain(f"{street.name} {street.district}") for street in self._streets]
        self._by_label = {label: index for index, label in enumerate(self._labels)}
        self._with_code: defaultdict[str, list[int]] = defaultdict(list)
        for index, street in enumerate(self._streets):
            self._with_code[street.postcode].append(index)
        self._by_name: defaultdict[str, list[int]] = defaultdict(list)
        for index, street in enumerate(self._streets):
            self._by_name[_plain(street.name)].append(index)
        self._tree = shapely.STRtree([street.line for street in self._streets])
        self._doors = [(index, number) for index, street in enumerate(self._streets) for number in street.houses]
        places = (self._streets[index].houses[number] for index, number in self._doors)
        self._door_tree = shapely.STRtree([self._flat(place) for place in places])

    def search(self, text: str, *, limit: int = 8) -> list[Match]:
        """Addresses by typing, best first. Tolerates misspelling and another order of words."""
        text, code = self._without_postcode(_plain(text))
        words, number = _split(text)
        if not words:
            return []
        exact = [index for index in self._exact(words) if not code or self._streets[index].postcode == code]
        if exact:
            return [self._match(index, number, 100.0) for index in exact[:limit]]
        labels: Any = self._labels
        if code:
            labels = {index: self._labels[index] for index in self._with_code[code]}
        found = process.extract(words, labels, scorer=_likeness, limit=limit, score_cutoff=LEAST_LIKENESS)
        return [self._match(index, number, score) for _label, score, index in found]

    def _without_postcode(self, plain: str) -> tuple[str, str]:
        """What was typed without a postcode of the region, and that postcode. The last one counts: a house number may
        look like one."""
        for code in sorted(self._postcodes, key=len, reverse=True):
            head, found, tail = f" {plain} ".rpartition(f" {code} ")
            if found:
                return f"{head} {tail}".strip(), self._postcodes[code]
        return plain, ""

    def reverse(self, place: Place) -> Match | None:
        """The address nearest to a place."""
        if not self._streets:
            return None
        flat = self._flat(place)
        if self._doors:
            door = int(self._door_tree.nearest(flat))
            off = float(self._door_tree.geometries[door].distance(flat))
            if off <= AT_HOUSE_METRES:
                index, number = self._doors[door]
                return self._match(index, number, max(0.0, 100.0 - off / 10))
        index = int(self._tree.nearest(flat))
        return self._match(index, 0, max(0.0, 100.0 - self._streets[index].line.distance(flat) / 10))

    def addresses(self) -> Sequence[tuple[str, str, int]]:
        """Every street as (name, district, last house number; 0: none is known)."""
        return [(street.name, street.district, street.last_number) for street in self._streets]

    def _exact(self, words: str) -> list[int]:
        if words in self._by_label:
            return [self._by_label[words]]
        return self._by_name.get(words, [])

    def _match(self, index: int, number: int, likeness: float) -> Match:
        street = self._streets[index]
        missing = 0
        if number and not street.houses:
            likeness -= NO_NUMBERS
        elif number and number not in street.houses:
            # The street is right, the number is not there: the nearest one, and not as sure.
            missing, number, likeness = number, street.nearest(number), likeness - OTHER_NUMBER
        place = street.houses.get(number) or self._middle(street)
        address = Address(street=street.name, number=number, district=street.district, postcode=street.postcode)
        return Match(address=address, place=place, likeness=likeness, missing=missing)

    def _flat(self, place: Place) -> shapely.Point:
        return shapely.Point((np.array([place.lon, place.lat]) - self._origin) * self._scale)

    def _middle(self, street: _Street) -> Place:
        lon, lat = np.array(street.line.interpolate(0.5, normalized=True).coords[0]) / self._scale + self._origin
        return Place(round(float(lon), 6), round(float(lat), 6))

    def _longest(self, lines: list[shapely.LineString]) -> shapely.LineString:
        flat = [shapely.LineString((np.array(line.coords) - self._origin) * self._scale) for line in lines]
        merged = linemerge(flat) if len(flat) > 1 else flat[0]
        pieces = list(merged.geoms) if merged.geom_type == "MultiLineString" else [merged]
        return max(pieces, key=lambda piece: piece.length)


_Houses = dict[tuple[str, str], dict[int, Place]]


def _houses_by_street(houses: Mapping[str, Any]) -> tuple[_Houses, dict[tuple[str, str], str]]:
    """Houses, and the postcode where there is one, by street and district."""
    found: defaultdict[tuple[str, str], dict[int, Place]] = defaultdict(dict)
    codes: dict[tuple[str, str], str] = {}
    for feature in houses.get("features", []):
        properties = feature["properties"]
        key = str(properties["street"]), str(properties.get("district") or "")
        own, codes[key] = found[key], str(properties.get("postcode") or "")
        for number, (lon, lat) in zip(properties["numbers"], feature["geometry"]["coordinates"], strict=True):
            own.setdefault(int(number), Place(lon, lat))
    return dict(found), codes


def _plain(text: str) -> str:
    return " ".join(utils.default_process(text).split())


def _split(text: str) -> tuple[str, int]:
    """The words of an address and its house number (0 when none was typed)."""
    plain = _plain(text)
    number = re.search(r"\b(\d{1,4})[a-z]?\b", plain)
    words = " ".join(re.sub(r"\b\d+[a-z]?\b", " ", plain).split())
    return words, int(number.group(1)) if number else 0


def _likeness(typed: Any, label: Any, /, *, score_cutoff: float | None = None) -> float:
    """Word order does not matter, and a part typed so far counts nearly as the whole."""
    whole = fuzz.token_sort_ratio(typed, label)
    part = fuzz.partial_token_sort_ratio(typed, label) * 0.95
    best = float(max(whole, part))
    return best if best >= (score_cutoff or 0.0) else 0.0

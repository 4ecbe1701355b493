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

METRES_BETWEEN_NUMBERS = 9.0
SETBACK_METRES = 12.0
# Below this likeness (0-100) a street is not what was meant.
LEAST_LIKENESS = 74.0


@dataclass(frozen=True, kw_only=True)
class Address:
    """A street address; `number` 0 stands for the street as a whole."""

    street: str
    number: int
    district: str

    @property
    def text(self) -> str:
        street = f"{self.street} {self.number}" if self.number else self.street
        return f"{street}, {self.district}" if self.district else street


@dataclass(frozen=True, kw_only=True)
class Match:
    """An address that may be meant, its place, and how alike it is (0-100).

    `missing`: the house number that was typed and is not in that street; the place is then the street's end.
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

    @property
    def last_number(self) -> int:
        return max(1, int(self.line.length / METRES_BETWEEN_NUMBERS))


class AddressBook:
    """All addresses of a region. Numbers run along each street, odd on the left, even on the right."""

    def __init__(self, streets: Mapping[str, Any]) -> None:
        """
        Parameters
        ----------
        streets
            GeoJSON FeatureCollection of LineStrings with the properties `name` and `district`.
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
        self._streets = [_Street(*key, self._longest(lines)) for key, lines in sorted(parts.items())]
        self._labels = [_plain(f"{street.name} {street.district}") for street in self._streets]
        self._by_label = {label: index for index, label in enumerate(self._labels)}
        self._by_name: defaultdict[str, list[int]] = defaultdict(list)
        for index, street in enumerate(self._streets):
            self._by_name[_plain(street.name)].append(index)
        self._tree = shapely.STRtree([street.line for street in self._streets])

    def search(self, text: str, *, limit: int = 8) -> list[Match]:
        """Addresses by typing, best first. Tolerates misspelling and another order of words."""
        words, number = _split(text)
        if not words:
            return []
        exact = self._exact(words)
        if exact:
            return [self._match(index, number, 100.0) for index in exact[:limit]]
        found = process.extract(words, self._labels, scorer=_likeness, limit=limit, score_cutoff=LEAST_LIKENESS)
        return [self._match(index, number, score) for _label, score, index in found]

    def reverse(self, place: Place) -> Match | None:
        """The address nearest to a place."""
        if not self._streets:
            return None
        flat = shapely.Point((np.array([place.lon, place.lat]) - self._origin) * self._scale)
        index = int(self._tree.nearest(flat))
        street = self._streets[index]
        along = street.line.project(flat)
        number = min(max(1, round(along / METRES_BETWEEN_NUMBERS)), street.last_number)
        off = street.line.distance(flat)
        return self._match(index, number, max(0.0, 100.0 - off / 10))

    def addresses(self) -> Sequence[tuple[str, str, int]]:
        """Every street as (name, district, last house number)."""
        return [(street.name, street.district, street.last_number) for street in self._streets]

    def _exact(self, words: str) -> list[int]:
        if words in self._by_label:
            return [self._by_label[words]]
        return self._by_name.get(words, [])

    def _match(self, index: int, number: int, likeness: float) -> Match:
        street = self._streets[index]
        missing = number if number > street.last_number else 0
        if missing:
            # The street is right, the number is not there: its end, and not as sure.
            number, likeness = street.last_number, likeness - 15
        along = number * METRES_BETWEEN_NUMBERS if number else street.line.length / 2
        flat = _beside(street.line, along, left=bool(number % 2), by=SETBACK_METRES if number else 0.0)
        lon, lat = flat / self._scale + self._origin
        address = Address(street=street.name, number=number, district=street.district)
        return Match(
            address=address, place=Place(round(float(lon), 6), round(float(lat), 6)), likeness=likeness, missing=missing
        )

    def _longest(self, lines: list[shapely.LineString]) -> shapely.LineString:
        flat = [shapely.LineString((np.array(line.coords) - self._origin) * self._scale) for line in lines]
        merged = linemerge(flat) if len(flat) > 1 else flat[0]
        pieces = list(merged.geoms) if merged.geom_type == "MultiLineString" else [merged]
        return max(pieces, key=lambda piece: piece.length)


def _beside(line: shapely.LineString, along: float, *, left: bool, by: float) -> np.ndarray:
    at = np.array(line.interpolate(along).coords[0])
    ahead = np.array(line.interpolate(min(along + 1, line.length)).coords[0])
    behind = np.array(line.interpolate(max(along - 1, 0)).coords[0])
    direction = ahead - behind
    length = float(np.hypot(*direction)) or 1.0
    across = np.array([-direction[1], direction[0]]) / length
    return np.asarray(at + across * (by if left else -by))


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

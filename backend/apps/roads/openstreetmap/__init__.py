"""Reading an OpenStreetMap extract: the roads, house numbers and boundaries of a region."""

from apps.roads.openstreetmap.boundaries import Boundaries, read_boundaries
from apps.roads.openstreetmap.houses import read_houses
from apps.roads.openstreetmap.roads import ROADS, Report, read_roads

__all__ = ["ROADS", "Boundaries", "Report", "read_boundaries", "read_houses", "read_roads"]

"""The road network of a region: travel times and paths, addresses, areas."""

from core.roads.areas import AreaIndex, joined
from core.roads.geocode import Address, AddressBook, Geocoder, Match
from core.roads.matrix import TravelMatrix, compute_matrix, extend_matrix
from core.roads.network import BadRegion, RoadNetwork, network_from_geojson
from core.roads.paths import Errand, Path, Way, path_between, paths_between
from core.roads.periods import PERIODS, Period, PeriodClock
from core.roads.travel import Leg, TimedTravel, Travel

__all__ = [
    "PERIODS",
    "Address",
    "AddressBook",
    "AreaIndex",
    "BadRegion",
    "Errand",
    "Geocoder",
    "Leg",
    "Match",
    "Path",
    "Period",
    "PeriodClock",
    "RoadNetwork",
    "TimedTravel",
    "Travel",
    "TravelMatrix",
    "Way",
    "compute_matrix",
    "extend_matrix",
    "joined",
    "network_from_geojson",
    "path_between",
    "paths_between",
]

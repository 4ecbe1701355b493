"""Travel times of this process: one matrix of the places asked for lately, kept on disk."""

import logging
import multiprocessing
import os
import tempfile
import threading
import zipfile
from collections.abc import Collection, Iterator, Sequence
from concurrent.futures import ProcessPoolExecutor
from contextlib import contextmanager
from itertools import count
from pathlib import Path

import numpy as np
from django.conf import settings

from apps.roads.region import mark, network_of
from core.basics import Place
from core.roads import RoadNetwork
from core.roads.matrix import NOWHERE, JobMap, TravelMatrix, extend_matrix

log = logging.getLogger(__name__)
_lock = threading.Lock()
_matrix: TravelMatrix = NOWHERE
# Of which roads: another region has other times.
_roads: tuple[Path, int] | None = None
# When each place was asked for last, counted in questions.
_asked_last: dict[Place, int] = {}
_questions = count()
# So many new places at once are worth writing the file again.
WORTH_SAVING = 8
# So many are worth starting processes for.
WORTH_PROCESSES = 400
# Rises when what the file holds changes, so that an older file is made anew.
FILE_FORMAT = 3
_unsaved = 0


def matrix_holding(places: Sequence[Place]) -> TravelMatrix:
    """A matrix that has at least these places; new ones are computed and added.

    It holds at most `TRAVEL_PLACES`, or as many as are asked for at once: what was not asked for longest goes first.
    So a process stays small whatever the number of sites, and what is looked at every day is there.
    """
    global _matrix, _roads, _unsaved
    distinct = dict.fromkeys(places)
    _asked_last.update(dict.fromkeys(distinct, next(_questions)))
    current, roads = _matrix, mark()
    if roads == _roads and all(place in current.index for place in distinct):
        return current
    with _lock:
        if roads != _roads:
            _matrix, _roads, _unsaved = NOWHERE, roads, 0
        # Of the roads that were looked at: what is kept on disk under one network's name never holds another's times.
        network = network_of(roads)
        if not _matrix.places:
            _matrix = _load(network)
        missing = [place for place in distinct if place not in _matrix.index]
        if not missing:
            return _matrix
        kept = _without_the_oldest(_matrix, distinct.keys(), len(missing))
        with _mapping(len(missing)) as run:
            _matrix = extend_matrix(network, kept, missing, run=run)
        _unsaved += len(missing)
        if _unsaved >= WORTH_SAVING:
            _save(_matrix, network)
            _unsaved = 0
        return _matrix


def _without_the_oldest(matrix: TravelMatrix, asked: Collection[Place], more: int) -> TravelMatrix:
    """The matrix with room for so many more places."""
    surplus = len(matrix.places) + more - settings.TRAVEL_PLACES
    others = sorted(
        (place for place in matrix.places if place not in asked), key=lambda place: _asked_last.get(place, -1)
    )
    gone = set(others[: max(0, surplus)])
    if not gone:
        return matrix
    for place in gone:
        _asked_last.pop(place, None)
    return matrix.only([place for place in matrix.places if place not in gone])


@contextmanager
def _mapping(places: int) -> Iterator[JobMap]:
    """How the jobs are run: here when there are few places, else on all processors."""
    if places < WORTH_PROCESSES:
        yield map
        return
    # Not by fork: this process has threads, and a database connection that must not be shared.
    context = multiprocessing.get_context("forkserver")
    with ProcessPoolExecutor(max_workers=os.cpu_count(), mp_context=context) as pool:
        yield pool.map


def _file(network: RoadNetwork) -> Path:
    return Path(settings.CACHE_FOLDER) / f"travel-{network.fingerprint}-{FILE_FORMAT}.npz"


def _load(network: RoadNetwork) -> TravelMatrix:
    path = _file(network)
    if not path.exists():
        return NOWHERE
    try:
        with np.load(path) as data:
            places = tuple(Place(float(lon), float(lat)) for lon, lat in data["places"])
            count = len(places)
            estimated = np.unpackbits(data["estimated"], count=count * count).reshape(count, count).astype(bool)
            return TravelMatrix(places=places, seconds=data["seconds"], metres=data["metres"], estimated=estimated)
    except (OSError, ValueError, KeyError, zipfile.BadZipFile) as error:
        log.warning("travel cache %s is unreadable and will be made anew: %s", path, error)
        return NOWHERE


def _save(matrix: TravelMatrix, network: RoadNetwork) -> None:
    """Write beside and rename, so that another process never reads half a file."""
    path = _file(network)
    path.parent.mkdir(parents=True, exist_ok=True)
    places = np.array([(place.lon, place.lat) for place in matrix.places])
    handle, name = tempfile.mkstemp(dir=path.parent, suffix=".npz")
    with os.fdopen(handle, "wb") as file:
        np.savez(
            file, places=places, seconds=matrix.seconds, metres=matrix.metres, estimated=np.packbits(matrix.estimated)
        )
    os.replace(name, path)

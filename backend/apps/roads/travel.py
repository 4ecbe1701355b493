"""Travel times of this process: one matrix that grows with the places asked for, kept on disk."""

import logging
import multiprocessing
import os
import tempfile
import threading
import zipfile
from collections.abc import Iterator, Sequence
from concurrent.futures import ProcessPoolExecutor
from contextlib import contextmanager
from pathlib import Path

import numpy as np
from django.conf import settings
from numpy.typing import NDArray

from apps.roads.region import network
from core.basics import Place
from core.roads import TravelMatrix, compute_matrix, extend_matrix
from core.roads.travel import JobMap

log = logging.getLogger(__name__)
_lock = threading.Lock()
_matrix: TravelMatrix | None = None
# So many new places at once are worth writing the file again.
WORTH_SAVING = 8
# So many are worth starting processes for.
WORTH_PROCESSES = 400
# Rises when what the file holds changes, so that an older file is made anew.
FILE_FORMAT = 2
_unsaved = 0


def matrix_holding(places: Sequence[Place]) -> TravelMatrix:
    """A matrix that has at least these places; new ones are computed and added."""
    global _matrix, _unsaved
    current = _matrix
    if current is not None and all(place in current.index for place in places):
        return current
    with _lock:
        if _matrix is None:
            _matrix = _load()
        missing = [place for place in dict.fromkeys(places) if _matrix is None or place not in _matrix.index]
        if not missing and _matrix is not None:
            return _matrix
        with _mapping(len(missing)) as run:
            if _matrix is None or len(missing) > len(_matrix.places):
                known = _matrix.places if _matrix else ()
                _matrix = compute_matrix(network(), [*known, *missing], run=run)
            else:
                _matrix = extend_matrix(network(), _matrix, missing, run=run)
        _unsaved += len(missing)
        if _unsaved >= WORTH_SAVING:
            _save(_matrix)
            _unsaved = 0
        return _matrix


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


def _file() -> Path:
    return Path(settings.CACHE_FOLDER) / f"travel-{network().fingerprint}-{FILE_FORMAT}.npz"


def _load() -> TravelMatrix | None:
    path = _file()
    if not path.exists():
        return None
    try:
        with np.load(path) as data:
            places = tuple(Place(float(lon), float(lat)) for lon, lat in data["places"])
            count = len(places)
            estimated = np.unpackbits(data["estimated"], count=count * count).reshape(count, count).astype(bool)
            return TravelMatrix(
                places=places,
                seconds=data["seconds"].astype(np.int32),
                metres=data["metres"].astype(np.int32),
                estimated=estimated,
            )
    except (OSError, ValueError, KeyError, zipfile.BadZipFile) as error:
        log.warning("travel cache %s is unreadable and will be made anew: %s", path, error)
        return None


def _save(matrix: TravelMatrix) -> None:
    """Write beside and rename, so that another process never reads half a file.

    In as few bytes as the numbers need: a drive is below 18 hours and takes two.
    """
    path = _file()
    path.parent.mkdir(parents=True, exist_ok=True)
    places = np.array([(place.lon, place.lat) for place in matrix.places])
    handle, name = tempfile.mkstemp(dir=path.parent, suffix=".npz")
    with os.fdopen(handle, "wb") as file:
        np.savez(
            file,
            places=places,
            seconds=_narrow(matrix.seconds),
            metres=_narrow(matrix.metres),
            estimated=np.packbits(matrix.estimated),
        )
    os.replace(name, path)


def _narrow(table: NDArray[np.int32]) -> NDArray[np.generic]:
    return table.astype(np.min_scalar_type(int(table.max(initial=0))))

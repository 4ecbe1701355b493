"""Travel times of this process: one matrix that grows with the places asked for, kept on disk."""

import logging
import os
import tempfile
import threading
import zipfile
from collections.abc import Sequence
from pathlib import Path

import numpy as np
from django.conf import settings

from apps.roads.region import network
from core.basics import Place
from core.roads import TravelMatrix, compute_matrix, extend_matrix

log = logging.getLogger(__name__)
_lock = threading.Lock()
_matrix: TravelMatrix | None = None
# So many new places at once are worth writing the file again.
WORTH_SAVING = 8
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
        if _matrix is None or len(missing) > len(_matrix.places):
            known = _matrix.places if _matrix else ()
            _matrix = compute_matrix(network(), [*known, *missing])
        else:
            _matrix = extend_matrix(network(), _matrix, missing)
        _unsaved += len(missing)
        if _unsaved >= WORTH_SAVING:
            _save(_matrix)
            _unsaved = 0
        return _matrix


def _file() -> Path:
    return Path(settings.CACHE_FOLDER) / f"travel-{network().fingerprint}.npz"


def _load() -> TravelMatrix | None:
    path = _file()
    if not path.exists():
        return None
    try:
        with np.load(path) as data:
            places = tuple(Place(float(lon), float(lat)) for lon, lat in data["places"])
            return TravelMatrix(
                places=places, seconds=data["seconds"], metres=data["metres"], estimated=data["estimated"]
            )
    except (OSError, ValueError, KeyError, zipfile.BadZipFile) as error:
        log.warning("travel cache %s is unreadable and will be made anew: %s", path, error)
        return None


def _save(matrix: TravelMatrix) -> None:
    """Write beside and rename, so that another process never reads half a file."""
    path = _file()
    path.parent.mkdir(parents=True, exist_ok=True)
    places = np.array([(place.lon, place.lat) for place in matrix.places])
    handle, name = tempfile.mkstemp(dir=path.parent, suffix=".npz")
    with os.fdopen(handle, "wb") as file:
        np.savez(file, places=places, seconds=matrix.seconds, metres=matrix.metres, estimated=matrix.estimated)
    os.replace(name, path)

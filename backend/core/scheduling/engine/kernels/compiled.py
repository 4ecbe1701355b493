"""How kernels are compiled, and where compiled code is kept.

Arrays travel in named tuples, at no cost as long as numba counts no references (nothing here allocates): counting those
of each call made the search six times slower.
"""

import hashlib
import shutil
from pathlib import Path
from typing import Any

from numba import config, njit

_ENGINE = Path(__file__).parents[1]


def _fingerprint() -> str:
    """Of all sources that are compiled, and of those whose constants go into them.

    Numba itself does not notice a change in what a function calls or takes from another file.
    """
    digest = hashlib.sha256()
    constants = [_ENGINE / f"{name}.py" for name in ("bundles", "fields", "tuning")]
    for path in sorted([*(_ENGINE / "kernels").glob("*.py"), *constants]):
        digest.update(path.read_bytes())
    return digest.hexdigest()[:16]


_KEPT = _ENGINE / "__pycache__"
if not config.CACHE_DIR:
    config.CACHE_DIR = str(_KEPT / f"kernels-{_fingerprint()}")


def forget_older() -> None:
    """Throw away what was compiled from older sources."""
    for folder in _KEPT.glob("kernels-*"):
        if str(folder) != config.CACHE_DIR:
            shutil.rmtree(folder, ignore_errors=True)


compiled: Any = njit(cache=True, error_model="numpy", _nrt=False)
# Small and asked for at every position: a call would cost more than the work.
inlined: Any = njit(cache=True, error_model="numpy", _nrt=False, forceinline=True)

"""What a process holds that meets 5,000 sites, a day of 1,400 after the other."""

import time
from pathlib import Path

import django
import numpy as np

from core.basics import Place
from tests.bench.core import sites
from tests.bench.figures import Figures

SITES, A_DAY, DAYS = 5000, 1400, 6


def _megabytes() -> float:
    for line in Path("/proc/self/status").read_text().splitlines():
        if line.startswith("VmRSS"):
            return int(line.split()[1]) / 1024
    return 0.0


def many_sites(figures: Figures) -> None:
    """Memory and time of the travel times of a company with more sites than any day has."""
    django.setup()
    from apps.roads import travel
    from apps.roads.region import network

    _, places = sites(SITES)
    print(f"  {len(places)} sites, {len(network().nodes)} junctions")
    travel._save = lambda _matrix, _network: None  # type: ignore[assignment]
    travel._load = lambda _network: travel.NOWHERE  # type: ignore[assignment]
    before = _megabytes()
    dice = np.random.default_rng(2)
    days = [[places[int(n)] for n in dice.choice(len(places), A_DAY, replace=False)] for _ in range(DAYS)]
    took = [_timed(travel, day) for day in days]
    print("  seconds for each day: " + ", ".join(f"{seconds:.1f}" for seconds in took))
    figures.take("roads: the last day again", lambda: travel.matrix_holding(days[-1]))
    figures.take("roads: MB held", lambda: None, repeat=1, warm=0, own=lambda: _megabytes() - before, wanted="< 150 MB")


def _timed(travel: object, day: list[Place]) -> float:
    began = time.perf_counter()
    travel.matrix_holding(day)  # type: ignore[attr-defined]
    return time.perf_counter() - began

"""Taking and printing figures."""

import statistics
import time
from collections.abc import Callable
from typing import Any


class Figures:
    """Prints median, least and most of several runs, in milliseconds."""

    def __init__(self) -> None:
        print(f"{'what':62} {'median':>9} {'least':>9} {'most':>9}   wanted")

    def take(
        self, what: str, work: Callable[[], Any], *, repeat: int = 15, warm: int = 2, wanted: str = "",
        own: Callable[[], float] | None = None,
    ) -> None:  # fmt: skip
        """Time `work`, or take the milliseconds that `own` measures itself."""
        times = []
        for run in range(warm + repeat):
            if own is not None:
                taken = own()
            else:
                began = time.perf_counter()
                work()
                taken = (time.perf_counter() - began) * 1000
            if run >= warm:
                times.append(taken)
        print(f"{what:62} {statistics.median(times):9.2f} {min(times):9.2f} {max(times):9.2f}   {wanted}", flush=True)

    def note(self, what: str, value: float, *, wanted: str = "") -> None:
        """A figure that is no time, or was taken once."""
        print(f"{what:62} {value:9.2f} {'':>9} {'':>9}   {wanted}", flush=True)

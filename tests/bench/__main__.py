"""Benchmarks: `./relay bench [name ...]`. They print figures and judge nothing; machines differ and are noisy.

Each figure is the median of several runs. The first line is a fixed piece of work of Python alone, so that
figures of two machines, or of two hours on one, can be set in proportion.
"""

import sys
import time

from tests.bench import browser, core, decade, first_day, http, intake, planning, pricing, region, roads, stock
from tests.bench.figures import Figures
from tests.bench.planner.table import planner

BENCHMARKS = {
    "decade": decade.decade,
    "first-day": first_day.first_day,
    "evaluator": core.evaluator,
    "matrix": core.matrix,
    "many-sites": roads.many_sites,
    "region": region.region,
    "beside": http.beside,
    "board": http.board,
    "browser": browser.browser,
    "judge": http.judge,
    "open-work": http.open_work,
    "responders": http.responders,
    "openings": planning.openings,
    "pricing": pricing.pricing,
    "quotes": pricing.quotes,
    "intake": intake.intake,
    "imports": intake.imports,
    "offers": intake.offers,
    "safety": planning.safety,
    "stock": stock.stock,
    "planner": planner,
}


def yardstick() -> float:
    """Milliseconds for a million additions."""
    began = time.perf_counter()
    total = 0
    for number in range(1_000_000):
        total += number
    return (time.perf_counter() - began) * 1000


def main() -> int:
    wanted = sys.argv[1:] or list(BENCHMARKS)
    unknown = [name for name in wanted if name not in BENCHMARKS]
    if unknown:
        print(f"no such benchmark: {', '.join(unknown)}; there are {', '.join(BENCHMARKS)}")
        return 2
    figures = Figures()
    figures.take("yardstick: a million additions in Python", lambda: None, repeat=1, own=yardstick)
    for name in wanted:
        BENCHMARKS[name](figures)
    return 0


if __name__ == "__main__":
    sys.exit(main())

"""The table of bars. Costs, not times: lower is better; each figure is the median of several seeds."""

import os
import statistics
import subprocess
import sys
import tarfile
import time
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

from core.scheduling.engine import Budget, Search, Tuning
from core.scheduling.engine import fields as f
from core.scheduling.engine.operations import WARM
from core.scheduling.engine.warm import warm_up
from tests.bench.figures import Figures
from tests.bench.planner import instances, peers
from tests.bench.planner.instances import Instance, arrays_of, check

BEST_KNOWN_RC208 = 7761
# The whole table takes about forty minutes with five seeds.
SEEDS = int(os.environ.get("RELAY_BENCH_SEEDS", "5"))
SECONDS = float(os.environ.get("RELAY_BENCH_SECONDS", "20"))
# Goods to deliver are a rougher landscape than a field day: the search starts hotter.
DELIVERY = Tuning(hot=1.0, cold=0.01)


@dataclass(frozen=True)
class Row:
    what: str
    wanted: str
    run: Callable[[], str]


def planner(_figures: Figures) -> None:
    """Print the table: what, ours, the peer, how they compare, and the bar."""
    _warm()
    print(f"\nplanner: {SEEDS} seeds, {SECONDS:.0f} s each, one core; costs, lower is better")
    for name, row in ROWS.items():
        wanted = os.environ.get("RELAY_BENCH_ROWS", "")
        if wanted and name not in wanted.split(","):
            continue
        print(f"{row.what:44} {row.run():60} wanted {row.wanted}", flush=True)


def ours(
    one: Instance, seconds: float, seed: int, *, tuning: Tuning | None = None, routes: list[list[int]] | None = None
) -> tuple[float, list[list[int]], int]:
    """Cost, routes and iterations of our engine; checked independently where the check can."""
    arrays = arrays_of(one)
    search = Search(arrays, tuning=tuning or (DELIVERY if one.depot else None))
    search.begin(seed=seed, routes=routes or [[]] * arrays.m, pins={})
    search.fill()
    found = search.run(Budget(seconds=seconds))
    plain = [[c for c, _start in route] for route in found.routes]
    cost = found.cost / 1000
    if one.mate is None and one.due is None:
        assert check(one, plain) == round(cost), (check(one, plain), cost)
    return cost, plain, found.iterations


def _median(one: Instance, seconds: float = SECONDS) -> float:
    return statistics.median(ours(one, seconds, seed)[0] for seed in range(1, SEEDS + 1))


def _pyvrp(one: Instance, seconds: float = SECONDS) -> float:
    return statistics.median(check(one, peers.py_vrp(one, seconds, seed)) for seed in range(1, SEEDS + 1))


def _or_tools(one: Instance, seconds: float = SECONDS) -> float:
    """It has no seed: one run."""
    return check(one, peers.or_tools(one, seconds))


def _against(ours_: float, theirs: float, who: str) -> str:
    return f"{ours_:10.0f}  {who} {theirs:10.0f}  {100 * (ours_ / theirs - 1):+6.1f} %"


def _rc208_file() -> Path:
    """From PyVRP's source distribution, fetched once into a cache; it is not ours to ship."""
    cache = Path(__file__).parents[3] / ".relay" / "cache" / "bench"
    path = cache / "RC208.vrp"
    if not path.exists():
        cache.mkdir(parents=True, exist_ok=True)
        # The virtual environment has no pip; the Python it was made from has. It prepares what it fetches: minutes.
        python = getattr(sys, "_base_executable", sys.executable)
        command = [python, "-m", "pip", "download", "--quiet", "--no-binary", ":all:", "--no-deps"]
        subprocess.run([*command, "-d", str(cache), "pyvrp==0.14.1"], check=True)
        archive = next(cache.glob("pyvrp-*.tar.gz"))
        with tarfile.open(archive) as files:
            member = next(m for m in files.getmembers() if m.name.endswith("/RC208.vrp"))
            source = files.extractfile(member)
            assert source is not None
            path.write_bytes(source.read())
    return path


def _rc208() -> str:
    cost = _median(instances.rc208(_rc208_file()))
    return f"{cost:10.0f}  best known {BEST_KNOWN_RC208}  {100 * (cost / BEST_KNOWN_RC208 - 1):+6.2f} %"


def _deliveries(customers: int, seed: int, peer: Callable[[Instance], float], who: str) -> Callable[[], str]:
    def run() -> str:
        one = instances.delivery(customers, seed)
        return _against(_median(one), peer(one), who)

    return run


def _field(one: Callable[[], Instance], peer: Callable[[Instance], float], who: str) -> Callable[[], str]:
    return lambda: _against(_median(one()), peer(one()), who)


def _brief() -> str:
    one = instances.field_day(80, 600, 2)
    return _against(_median(one, 5), _median(one, 60), "own 60 s")


def _sick() -> str:
    """Three technicians call in sick: what is theirs finds a place, and the others hardly notice."""
    one = instances.field_day(80, 600, 3)
    _cost, routes, _rounds = ours(one, SECONDS, 1)
    ill = [v for v in range(one.m) if routes[v]][:3]
    length = one.length.copy()
    length[ill] = -1
    without = instances.replace(one, length=length)
    left = [[] if v in ill else route for v, route in enumerate(routes)]
    where = {c: v for v, route in enumerate(left) for c in route}
    arrays = arrays_of(without)
    # A small price of another person: enough to leave nine in ten alone.
    for c, v in where.items():
        arrays.extra[:, c] = 300 * 1000
        arrays.extra[v, c] = 0
    search = Search(arrays, tuning=WARM)
    search.begin(seed=1, routes=left, pins={})
    search.fill()
    found = search.run(Budget(seconds=2))
    mended = [[c for c, _ in route] for route in found.routes]
    moved = sum(1 for v, route in enumerate(mended) for c in route if c in where and where[c] != v)
    scratch = ours(without, SECONDS, 1)[0]
    share = 100 * moved / max(1, len(where))
    return _against(check(without, mended), scratch, f"scratch {SECONDS:.0f} s") + f"  {share:.1f} % moved"


def _rank() -> str:
    one = instances.field_day(400, 2000, 4)
    arrays = arrays_of(one)
    search = Search(arrays)
    search.begin(seed=1, routes=[[]] * arrays.m, pins={})
    search.fill()
    absent = [c for c in range(arrays.n) if arrays.tasks[c, f.SHIFT] < 0][:20] or [0]
    times = []
    for c in absent * 3:
        began = time.perf_counter()
        search.rank(c)
        times.append((time.perf_counter() - began) * 1000)
    return f"{statistics.median(times):10.2f} ms (the engine's part)"


def _speed() -> str:
    one = instances.with_everything(instances.field_day(80, 600, 2))
    rates = []
    for seed in range(1, min(SEEDS, 3) + 1):
        _cost, _routes, rounds = ours(one, 5, seed)
        rates.append(rounds / 5)
    return f"{statistics.median(rates):10.0f} iterations/s"


def _warm() -> None:
    """Load the compiled kernels: that is not the search."""
    warm_up()
    ours(instances.field_day(5, 20, 1), 0.2, 1)


ROWS: dict[str, Row] = {
    "rc208": Row("RC208", "≤ +0.5 %", _rc208),
    "vrptw100": Row("delivery 100 against PyVRP", "≤ +1 %", _deliveries(100, 21, _pyvrp, "PyVRP")),
    "vrptw200": Row("delivery 200 against PyVRP", "≤ +1.5 %", _deliveries(200, 22, _pyvrp, "PyVRP")),
    "ortools100": Row("delivery 100 against OR-Tools", "≤ -4 %", _deliveries(100, 21, _or_tools, "OR-Tools")),
    "ortools200": Row("delivery 200 against OR-Tools", "≤ -4 %", _deliveries(200, 22, _or_tools, "OR-Tools")),
    "field20o": Row(
        "field day 20 × 140 against OR-Tools", "≤ -18 %",
        _field(lambda: instances.field_day(20, 140, 31), _or_tools, "OR-Tools"),
    ),
    "field20p": Row(
        "field day 20 × 140 against PyVRP", "≤ -15 %",
        _field(lambda: instances.field_day(20, 140, 31), _pyvrp, "PyVRP"),
    ),
    "field80o": Row(
        "field day 80 × 600 against OR-Tools", "≤ -20 %",
        _field(lambda: instances.field_day(80, 600, 32), _or_tools, "OR-Tools"),
    ),
    "field80p": Row(
        "field day 80 × 600 against PyVRP", "≤ -20 %",
        _field(lambda: instances.field_day(80, 600, 32), _pyvrp, "PyVRP"),
    ),
    "lunch": Row(
        "the same with lunch against OR-Tools", "≤ -20 %",
        _field(lambda: instances.with_lunch(instances.field_day(80, 600, 32)), _or_tools, "OR-Tools"),
    ),
    "easy": Row(
        "no skills, all servable, against PyVRP", "≤ +1 %",
        _field(lambda: instances.field_day(30, 200, 33, skilled=False, easy=True), _pyvrp, "PyVRP"),
    ),
    "brief": Row("80 × 600 at 5 s against own 60 s", "≤ +15 %", _brief),
    "sick": Row("three ill: 2 s against scratch", "≤ 0 %, < 10 % moved", _sick),
    "rank": Row("all openings of a visit, 400 shifts", "< 100 ms", _rank),
    "speed": Row("80 × 600 with everything", "≥ 5,000 /s", _speed),
}  # fmt: skip

"""Ten years of a large company: 50,000 customers, a million visits, eight million events, three million entries of the
trail. What is asked all day must not grow with them."""

import os
import time
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import date, timedelta
from itertools import cycle

from ops.machine import free_port
from ops.processes import Processes, base_environment, manage
from tests.bench.figures import Figures
from tests.bench.http import FAR_AHEAD, Running

# As in the interface: board/lanes/chunks.ts.
FIRST_LANES, PART = 14, 160
TYPED = ("marram", "se", "296 5", "millrace road", "office@quay", "OR-1", "seagate hotels", "harbour 77", "zzyx")


@contextmanager
def ten_years() -> Iterator[Running]:
    """The demo with ten years more, 200 technicians with 1,200 visits on a day ahead, and a planner."""
    env = base_environment() | {"DATABASE_URL": os.environ["DATABASE_URL"]}
    manage(env, "prepare")
    if manage(env, "load_decade", "--check").strip() != "there":  # many minutes: kept from run to run of a day
        began = time.perf_counter()
        manage(env, "load_demo")
        manage(env, "load_crowd", str(FAR_AHEAD))
        manage(env, "load_decade")
        print(f"  ten years made in {time.perf_counter() - began:.0f} s")
    planner_port = free_port(8340)
    env["RELAY_PLANNER_URL"] = f"http://127.0.0.1:{planner_port}"
    processes = Processes(env, log_prefix="bench-")
    port = free_port(8240)
    try:
        processes.start_planner(planner_port)
        processes.start_worker()
        processes.start_web(port)
        processes.wait_healthy(port, seconds=120)
        processes.wait_planner(planner_port)
        yield Running(f"http://127.0.0.1:{port}")
    finally:
        processes.stop()


def decade(figures: Figures) -> None:
    """Over HTTP, what is open all day."""
    with ten_years() as server:
        today = server.get("/board")["day"]
        ahead = (date.fromisoformat(today) + timedelta(days=FAR_AHEAD)).isoformat()
        crowd = server.get(f"/board?day={ahead}")
        title = f"board: {len(crowd['lanes'])} technicians, {len(crowd['visits'])} visits"
        figures.take(title, lambda: server.get(f"/board?day={ahead}"), wanted="< 300 ms")
        ids = [lane["technician_id"] for lane in crowd["lanes"]]
        _parts(figures, server, ahead, ids)
        visits = cycle([row["id"] for row in crowd["visits"]])
        figures.take("visit details", lambda: server.get(f"/visits/{next(visits)}"), wanted="< 100 ms")
        figures.take("the backlog", lambda: server.post("/board/backlog", json={}))
        words = cycle(TYPED)
        figures.take(
            "search customers as you type", lambda: server.get(f"/customers?text={next(words)}"), repeat=45, warm=9,
            wanted="< 100 ms",
        )  # fmt: skip
        figures.take(
            "search visits as you type", lambda: server.get(f"/visits?text={next(words)}"), repeat=45, warm=9,
            wanted="< 100 ms",
        )  # fmt: skip
        customers = cycle(range(200, 260))
        figures.take("a customer's page", lambda: server.get(f"/customers/{next(customers)}"))
        figures.take("weeks ahead: 35 days", lambda: server.get(f"/board/load?day={today}&days=35"))
        figures.take("what needs somebody", lambda: server.get(f"/board/attention?day={today}"))
        figures.take("who often went together", lambda: server.get("/board/crews/often"))
        _undo(figures, server)


def _parts(figures: Figures, server: Running, day: str, ids: list[int]) -> None:
    """As the page asks for it: what a screen shows first, then the rest in parts of so many."""

    def part(some: list[int]) -> None:
        server.get(f"/board?day={day}&" + "technicians=" + ",".join(str(key) for key in some))

    figures.take(f"board: its first {FIRST_LANES} technicians", lambda: part(ids[:FIRST_LANES]), wanted="< 300 ms")
    figures.take(f"board: a part of {PART} technicians", lambda: part(ids[:PART]), wanted="< 300 ms")


def _undo(figures: Figures, server: Running) -> None:
    """Undo of a visit that was given to somebody: the undoing alone is timed."""
    backlog = server.post("/board/backlog", json={})["visits"]
    visit = next(row for row in backlog if not row["needs"] and row["duration_seconds"])
    lane = next(row for row in server.get("/board")["lanes"] if row["days"][0]["shift"])
    body = {"technician_id": lane["technician_id"], "start": lane["days"][0]["shift"]["start"] + 3600, "why": "bench"}

    def once() -> float:
        version = server.get(f"/visits/{visit['id']}")["version"]
        server.post(f"/visits/{visit['id']}/place", json=body | {"version": version})
        began = time.perf_counter()
        server.post("/board/undo", json={})
        return (time.perf_counter() - began) * 1000

    figures.take("undo", lambda: None, own=once, wanted="< 50 ms")

"""What an agent waits for with a caller on the phone: search, lists, offers, among many customers and orders."""

import os
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import replace
from itertools import cycle

from core.basics import Interval
from core.planning.engine import OfferFinder
from core.planning.offers import OfferRules
from ops.machine import free_port
from ops.processes import Processes, base_environment, manage
from tests.bench.figures import Figures
from tests.bench.http import Running
from tests.bench.planning import _planned
from tests.core.worlds import HOUR, at

TYPED = ("marram", "se", "296 5", "millrace road", "office@quay", "OR-1", "seagate hotels", "harbour 77", "zzyx")


@contextmanager
def _full_server() -> Iterator[Running]:
    """The demo with 50,000 customers and 100,000 orders more, and a planner."""
    env = base_environment() | {"DATABASE_URL": os.environ["DATABASE_URL"]}
    manage(env, "prepare")
    manage(env, "load_demo")
    manage(env, "load_multitude")
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


def intake(figures: Figures) -> None:
    """Over HTTP, with many customers and orders."""
    with _full_server() as server:
        words = cycle(TYPED)
        figures.take(
            "search among 50,000 customers, over HTTP",
            lambda: server.get(f"/customers?text={next(words)}"),
            repeat=45,
            warm=9,
            wanted="< 50 ms",
        )
        figures.take(
            "twins of a new customer",
            lambda: server.get("/customers/twins?name=Seagate Hotels 77&phone=296555100"),
            wanted="< 100 ms",
        )
        lists = cycle(
            (
                {},
                {"sort": "promise"},
                {"filters": {"text": "seagate"}},
                {"filters": {"states": ["open"], "priorities": [1, 2]}},
                {"filters": {"trouble": "overdue"}},
                {"page": 900},
            )
        )
        figures.take(
            "list of 100,000 orders, over HTTP",
            lambda: server.post("/orders/list", json=next(lists)),
            repeat=36,
            warm=6,
            wanted="< 200 ms",
        )
        job = next(row for row in server.get("/catalogue/job-types") if row["code"] == "door-noise")
        site = server.get("/customers/1")["sites"][0]["id"]
        body = {"site_id": site, "what_is_wrong": "", "job_type_id": job["id"]}
        figures.take(
            "offers, 24 technicians x 10 days, over HTTP",
            lambda: server.post("/planning/offers", json=body),
            wanted="< 300 ms",
        )

        def after_a_change() -> None:
            server.post("/customers/1/notes", json={"text": "changes the days' version"})
            server.post("/planning/offers", json=body)

        figures.take("the same, the first after a change", after_a_change, repeat=8, warm=1, wanted="< 300 ms")


def offers(figures: Figures) -> None:
    """In the core alone: 24 technicians and 200, ten days."""
    for technicians, visits in ((24, 700), (200, 5000)):
        problem = _planned(technicians, 10, visits, left=20)
        promised = tuple(replace(one, promise=one.promise or _window(3)) for one in problem.backlog[:10])
        asked = replace(problem.backlog[-1], promise=None)
        problem = replace(problem, backlog=promised)
        finder = OfferFinder(problem)
        windows = [_window(hour + 24 * day) for day in range(10) for hour in (0, 2, 4, 6)]
        figures.take(
            f"offers, {technicians} technicians x 10 days, {len(windows)} windows",
            lambda finder=finder, asked=asked, windows=windows: finder.offers(asked, windows, rules=OfferRules()),
            wanted="< 300 ms" if technicians == 24 else "",
        )
        figures.take(f"making that world ready ({technicians})", lambda p=problem: OfferFinder(p), repeat=3, warm=1)


def _window(hour: int) -> Interval:
    start = at(8) + hour * HOUR
    return Interval(start=start, end=start + 2 * HOUR)

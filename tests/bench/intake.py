"""What an agent waits for with a caller on the phone: search, lists, offers, among many customers and orders."""

import time
from dataclasses import replace
from itertools import cycle
from typing import Any

from core.appointments.finder import OfferFinder
from core.appointments.offers import OfferRules
from core.basics import Interval
from tests.bench.decade import TYPED, ten_years
from tests.bench.figures import Figures
from tests.bench.http import Running, running
from tests.bench.planning import _planned
from tests.core.worlds import HOUR, at


def intake(figures: Figures) -> None:
    """Over HTTP, with many customers and orders."""
    with ten_years() as server:
        words = cycle(TYPED)
        figures.take(
            "search among 50,000 customers, over HTTP",
            lambda: server.get(f"/customers?text={next(words)}"),
            repeat=45,
            warm=9,
            wanted="< 50 ms",
        )
        slips = cycle(("becon", "greyfrairs", "hosptial", "univeristy of varn", "millraec road"))
        figures.take(
            "a misspelt caller among 50,000 customers",
            lambda: server.get(f"/customers?text={next(slips)}"),
            repeat=15,
            warm=5,
            wanted="< 80 ms",
        )
        figures.take(
            "twins of a new customer",
            lambda: server.get("/customers/twins?name=Seagate Hotels 77&phone=296555100"),
            wanted="< 100 ms",
        )
        lists = {
            "the newest": {},
            "by promise": {"sort": "promise"},
            "a customer's name": {"filters": {"text": "seagate"}},
            "open and pressing": {"filters": {"states": ["open"], "priorities": [1, 2]}},
            "overdue": {"filters": {"trouble": "overdue"}},
            "page 900": {"page": 900},
        }
        for what, asked in lists.items():
            figures.take(
                f"list of a million orders: {what}",
                lambda asked=asked: server.post("/orders/list", json=asked),
                repeat=9,
                wanted="< 200 ms",
            )
        job = next(row for row in server.get("/catalogue/job-types") if row["code"] == "door-noise")
        site = server.get("/customers/1")["sites"][0]["id"]
        body = {"site_id": site, "what_is_wrong": "", "job_type_id": job["id"]}
        figures.take(
            "offers, 24 technicians x 10 days, over HTTP",
            lambda: server.post("/appointments/offers", json=body),
            wanted="< 300 ms",
        )

        def after_a_change() -> None:
            server.post("/customers/1/notes", json={"text": "changes the days' version"})
            server.post("/appointments/offers", json=body)

        figures.take("the same, the first after a change", after_a_change, repeat=8, warm=1, wanted="< 300 ms")


def imports(figures: Figures) -> None:
    """50,000 customers from a file: how long, and what somebody else waits for meanwhile."""
    lines = ["name,phone,email,tags"]
    for number in range(50_000):
        phone = f"+351 28{number % 9} {number // 900 + 100:03} {number % 900 + 100:03}"
        lines.append(f"Imported {number} Works,{phone},office{number}@works.example,trial")
    file = ("customers.csv", "\n".join(lines).encode(), "text/csv")
    with running() as server:
        made = server.post("/customers/import/of/customers", files={"file": file})
        waits: list[float] = []
        for until, then in (("read", "accept"), ("done", "")):
            began = time.perf_counter()
            row = _wait(server, made["id"], until, waits)
            print(f"  {until}: {time.perf_counter() - began:.0f} s, {row['counts']}")
            if then:
                server.post(f"/customers/import/{made['id']}/accept")
        waits.sort()
        figures.take(
            "search while a file comes in, median",
            lambda: None,
            repeat=1,
            own=lambda: waits[len(waits) // 2],
        )
        figures.take("search while a file comes in, the slowest", lambda: None, repeat=1, own=lambda: waits[-1])


def _wait(server: Running, file_id: int, until: str, waits: list[float]) -> dict[str, Any]:
    while True:
        began = time.perf_counter()
        server.get("/customers?text=seagate")
        waits.append(1000 * (time.perf_counter() - began))
        row = server.get(f"/customers/import/{file_id}")
        if row["state"] in (until, "failed"):
            return row
        time.sleep(0.2)


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

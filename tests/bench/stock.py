"""Figures of stock: what an office and a depot wait for with 5,000 parts in 200 places and five million movements."""

import os
import time
from datetime import date, timedelta
from itertools import count
from uuid import uuid4

from ops.processes import base_environment, manage
from tests.bench.figures import Figures
from tests.bench.http import FAR_AHEAD, Running, running


def stock(figures: Figures) -> None:
    """Over HTTP; each figure is what the browser would wait for."""
    with running() as server:
        places = server.get("/stock/places")
        depot, van = (next(row["id"] for row in places if row["kind"] == kind) for kind in ("depot", "van"))
        lying = [row["level"] for row in server.get(f"/supply/places/{depot}")["rows"]]
        before = iter([row["code"] for row in lying if row["figures"]["free"] > 0 and row["tracking"] == "plain"])
        figures.take(
            "stock: a movement, the demo's behind it", lambda: _move(server, depot, van, next(before)), repeat=39
        )
        began = time.perf_counter()
        manage(base_environment() | {"DATABASE_URL": os.environ["DATABASE_URL"]}, "load_stockroom")
        print(f"  a million levels and five million movements made in {time.perf_counter() - began:.0f} s")
        day = date.fromisoformat(server.get("/board")["day"]) + timedelta(days=FAR_AHEAD)
        figures.take("stock: the list of parts, a page", lambda: server.get("/part-list"), wanted="< 100 ms")
        figures.take("stock: the list of parts, searched", lambda: server.get("/part-list?text=part 77"))
        figures.take("stock: a part in 200 places", lambda: server.get("/parts/bench-7/levels"), wanted="< 100 ms")
        vans = server.get(f"/supply/tonight?day={day}")
        visits = {need["visit_id"] for van in vans for part in van["parts"] for need in part["visits"]}
        title = f"stock: the next day's check, {len(vans)} vans, {len(visits)} visits"
        figures.take(title, lambda: server.get(f"/supply/tonight?day={day}"), repeat=9, wanted="< 2000 ms")
        figures.take("stock: what lies on a van", lambda: server.get(f"/supply/places/{van}"), repeat=9)
        number = count(1)
        title = "stock: a movement, five million behind it"
        figures.take(title, lambda: _move(server, depot, van, f"bench-{next(number)}"), repeat=39, wanted="< 30 ms")


def _move(server: Running, source: int, target: int, code: str) -> None:
    body = {"key": str(uuid4()), "reason": "transfer", "source_id": source, "target_id": target}
    server.post("/stock/movements", json=body | {"rows": [{"code": code, "quantity": 1}]})

"""Figures of the running application, over HTTP on loopback."""

import os
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import date, timedelta
from typing import Any

import requests

from demo.accounts import PASSWORD, SIGN_INS
from ops.machine import free_port
from ops.processes import Processes, base_environment, manage
from tests.bench.figures import Figures

FAR_AHEAD = 70


class Running:
    """A server with its demo data, and a signed-in dispatcher."""

    def __init__(self, url: str) -> None:
        self.url = url
        self.session = requests.Session()
        self._take_token()
        body = {"email": SIGN_INS[0].email, "password": PASSWORD}
        self.session.post(f"{url}/api/auth/browser/v1/auth/login", json=body, timeout=30).raise_for_status()
        self._take_token()

    def _take_token(self) -> None:
        answer = self.session.get(f"{self.url}/api/v1/session", timeout=30)
        self.session.headers["X-CSRFToken"] = answer.json()["csrf_token"]

    def get(self, path: str) -> dict:
        answer = self.session.get(f"{self.url}/api/v1{path}", timeout=60)
        answer.raise_for_status()
        return answer.json()

    def post(self, path: str, **more: object) -> dict:
        answer = self.session.post(f"{self.url}/api/v1{path}", timeout=120, **more)
        answer.raise_for_status()
        return answer.json() if answer.content else {}


@contextmanager
def running(*, days: int = 1, waiting: int = 0, ahead: int = FAR_AHEAD) -> Iterator[Running]:
    env = base_environment() | {"DATABASE_URL": os.environ["DATABASE_URL"]}
    manage(env, "prepare")
    manage(env, "load_demo")
    if days or waiting:
        manage(env, "load_crowd", str(ahead), "--days", str(days), "--open", str(waiting))
    processes = Processes(env, log_prefix="bench-")
    port = free_port(8240)
    try:
        processes.start_worker()
        processes.start_web(port)
        processes.wait_healthy(port, seconds=120)
        yield Running(f"http://127.0.0.1:{port}")
    finally:
        processes.stop()


def board(figures: Figures) -> None:
    """The board of a day: the demo's 24 technicians, then 200 with 1,200 visits."""
    with running() as server:
        today = server.get("/board")
        heads = server.get("/board/lanes")
        few = [row["technician_id"] for row in heads if not row["name"].startswith("Crowd")]
        print(f"  today: {len(few)} of {len(today['lanes'])} technicians, {len(today['visits'])} visits")
        ahead = (date.fromisoformat(today["day"]) + timedelta(days=FAR_AHEAD)).isoformat()
        crowd = server.get(f"/board?day={ahead}")
        print(f"  the crowd's day: {len(crowd['lanes'])} technicians, {len(crowd['visits'])} visits")
        figures.take(
            f"board: {len(crowd['lanes'])} technicians, {len(crowd['visits'])} visits",
            lambda: server.get(f"/board?day={ahead}"),
            wanted="< 300 ms",
        )
        manage(base_environment() | {"DATABASE_URL": os.environ["DATABASE_URL"]}, "load_demo")
        server = Running(server.url)
        figures.take("board: 24 technicians, today", lambda: server.get("/board"))


def judge(figures: Figures) -> None:
    """What a drag asks at each step."""
    with running() as server:
        lanes = server.get("/board")["lanes"]
        lane = next(row for row in lanes if row["days"][0]["shift"] and row["days"][0]["timetable"]["stretches"])
        visit = server.post("/board/backlog", json={})["visits"][0]
        starts = [lane["days"][0]["shift"]["start"] + 300 * step for step in range(90)]
        step = iter(starts * 4)

        def ask() -> None:
            body = {"visit_id": visit["id"], "technician_id": lane["technician_id"], "start": next(step)}
            server.post("/scheduling/judge", json=body)

        figures.take("judge: one drag step over HTTP", ask, repeat=60, wanted="< 100 ms")


def responders(figures: Figures) -> None:
    """Who can be there first: the demo's own people, then 200 technicians with 1,200 visits on the running day."""
    for crowded in (False, True):
        with running(days=1 if crowded else 0, ahead=0, waiting=4) as server:
            backlog = server.post("/board/backlog", json={})["visits"]
            # Anybody could go to these.
            visits = [row["id"] for row in backlog if not row["needs"] and row["duration_seconds"]]
            turn = iter(visits * 14)
            found: Any = server.get(f"/visits/{visits[0]}/responders")
            print(f"  {len(found)} could go")
            figures.take(
                f"who can be there first: {'200 technicians' if crowded else 'the demo'}",
                lambda turn=turn: server.get(f"/visits/{next(turn)}/responders"), repeat=12,
                wanted="< 500 ms",
            )  # fmt: skip


def beside(figures: Figures) -> None:
    """What is asked beside the board: rounds along the roads, weeks ahead, why a visit stands where it stands."""
    with running() as server:
        today = server.get("/board")
        ahead = (date.fromisoformat(today["day"]) + timedelta(days=FAR_AHEAD)).isoformat()
        crowd = [row["technician_id"] for row in server.get("/board/lanes") if row["name"].startswith("Crowd")]
        groups = iter([",".join(map(str, crowd[at : at + 25])) for at in range(0, 150, 25)])
        figures.take(
            "rounds: 25 technicians along roads not taken before",
            lambda: server.get(f"/board/rounds?day={ahead}&technicians={next(groups)}"), repeat=5, warm=1,
        )  # fmt: skip
        again = ",".join(map(str, crowd[:25]))
        figures.take("rounds: the same again", lambda: server.get(f"/board/rounds?day={ahead}&technicians={again}"))
        few = ",".join(map(str, crowd[:8]))
        figures.take(
            "weeks ahead: a part of 8 technicians, 35 days",
            lambda: server.get(f"/board/load?day={today['day']}&days=35&technicians={few}"),
        )
        visits = iter([row["id"] for row in server.get(f"/board?day={ahead}")["visits"]] * 2)
        figures.take(
            "why a visit stands where it stands", lambda: server.get(f"/visits/{next(visits)}/why"), repeat=40,
            wanted="< 100 ms",
        )  # fmt: skip


def open_work(figures: Figures) -> None:
    """Preview of a file of 5,000 rows."""
    streets = ["Millrace Road", "Kilnfield Embankment", "Saltmarsh Embankment", "Westcliff Road"]
    lines = ["customer,site,address,phone,job_type,description,priority,duration,due"]
    for number in range(5000):
        street = streets[number % 4] if number % 9 else "Millrace Raod"
        lines.append(
            f"Customer {number % 900},Site {number},{street} {number % 80 + 1},+351 296 {number % 900:06d},"
            f"Noisy door,Rattles {number},3,45,2099-01-01"
        )
    data = "\n".join(lines).encode()
    with running() as server:
        files = lambda: {"file": ("work.csv", data, "text/csv")}  # noqa: E731
        made = server.post("/open-work", files=files())
        print(f"  {made['accepted']} accepted, {made['refused']} refused")
        figures.take(
            "open work: preview of 5,000 rows",
            lambda: server.post("/open-work", files=files()),
            repeat=3,
            warm=0,
            wanted="< 5,000 ms",
        )

"""What `./relay start` does when one of its processes ends: real processes, a clock of the test."""

import sys
import time

import pytest

from ops import processes
from ops.processes import Keeper, Processes


@pytest.fixture
def children(tmp_path, monkeypatch):
    monkeypatch.setattr(processes, "LOGS", tmp_path)
    monkeypatch.setattr(processes, "python_command", lambda *arguments: [sys.executable, *arguments])
    made = Processes({})
    yield made
    made.stop()


class Clock:
    now = 0.0

    def __call__(self) -> float:
        return self.now


def ends(child) -> None:
    child.kill()
    child.wait()


def settle(children, name) -> None:
    deadline = time.monotonic() + 10
    while children.running[name].poll() is None and time.monotonic() < deadline:
        time.sleep(0.02)


def test_what_ends_is_started_again_after_a_pause_and_the_others_go_on(children, capsys):
    clock = Clock()
    keeper = Keeper(children, clock=clock)
    for name in ("web", "worker"):
        children._start(name, "-c", "import time; time.sleep(60)")
    web, worker = children.running["web"], children.running["worker"]
    ends(worker)
    assert keeper.look() is None
    assert children.running["worker"] is worker  # not before its pause is over
    clock.now = 0.6
    assert keeper.look() is None
    assert children.running["worker"].poll() is None
    assert children.running["web"] is web
    assert "The worker process is started again" in capsys.readouterr().err


def test_pauses_grow_and_five_failures_in_a_minute_end_it(children):
    clock = Clock()
    keeper = Keeper(children, clock=clock)
    children._start("web", "-c", "raise SystemExit(1)")
    pauses = []
    for _ in range(4):
        settle(children, "web")
        assert keeper.look() is None
        pauses.append(keeper.due["web"] - clock.now)
        clock.now = keeper.due["web"]
        assert keeper.look() is None
    settle(children, "web")
    assert pauses == [0.5, 1.0, 2.0, 4.0]
    assert keeper.look() == "web"


def test_failures_long_ago_do_not_count(children):
    clock = Clock()
    keeper = Keeper(children, clock=clock)
    children._start("web", "-c", "raise SystemExit(1)")
    for _ in range(12):
        settle(children, "web")
        assert keeper.look() is None
        clock.now += 30
        assert keeper.look() is None


def test_the_simulated_monitors_never_take_the_rest_down(children):
    clock = Clock()
    keeper = Keeper(children, optional=frozenset({"monitors"}), clock=clock)
    children._start("monitors", "-c", "raise SystemExit(1)")
    children._start("web", "-c", "import time; time.sleep(60)")
    for _ in range(20):
        settle(children, "monitors")
        assert keeper.look() is None
        clock.now += 3
    assert keeper.given_up == {"monitors"}
    assert children.running["web"].poll() is None

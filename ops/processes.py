"""The processes of a running Iron Relay: web and worker, started, watched and stopped together."""

import os
import signal
import subprocess
import time
import urllib.request
from collections.abc import Callable
from pathlib import Path

from ops.machine import python_command
from ops.paths import BACKEND, LOGS, ROOT
from ops.say import Stop, line


class Processes:
    """Child processes that end with this one."""

    def __init__(self, env: dict[str, str], *, log_prefix: str = "") -> None:
        self.env = env
        self.prefix = log_prefix
        self.running: dict[str, subprocess.Popen[bytes]] = {}
        self.commands: dict[str, tuple[str, ...]] = {}

    def start_web(self, port: int) -> None:
        self._start(
            "web", "-m", "uvicorn", "config.asgi:application", "--app-dir", str(BACKEND), "--host", "127.0.0.1",
            "--port", str(port), "--timeout-graceful-shutdown", "3", "--no-access-log", "--lifespan", "off",
        )  # fmt: skip

    def start_worker(self) -> None:
        self._start(
            "worker", str(BACKEND / "manage.py"), "procrastinate", "worker", "--concurrency", "4", "--queues", "default"
        )

    def start_planner(self, port: int) -> None:
        self._start(
            "planner", "-m", "uvicorn", "config.planner:application", "--app-dir", str(BACKEND), "--host", "127.0.0.1",
            "--port", str(port), "--timeout-graceful-shutdown", "3", "--no-access-log", "--lifespan", "on",
        )  # fmt: skip

    def start_monitors(self, port: int) -> None:
        """The demo's simulated lift monitors, which report to the application like real ones."""
        self._start("monitors", str(BACKEND / "manage.py"), "run_monitors", f"http://127.0.0.1:{port}")

    def log(self, name: str) -> Path:
        return LOGS / f"{self.prefix}{name}.log"

    def ended(self) -> str | None:
        """The name of a process that has stopped by itself."""
        return next((name for name, child in self.running.items() if child.poll() is not None), None)

    def wait_planner(self, port: int) -> None:
        """Wait until the planner answers."""
        self._wait(f"http://127.0.0.1:{port}/health", ("planner",), 60)

    def wait_healthy(self, port: int, *, seconds: float = 60) -> None:
        """Wait until web, database and worker answer.

        Raises
        ------
        Stop
            When a process ended or the time is over; with the end of its log.
        """
        self._wait(f"http://127.0.0.1:{port}/api/v1/health", ("web", "worker"), seconds)

    def _wait(self, url: str, names: tuple[str, ...], seconds: float) -> None:
        deadline = time.monotonic() + seconds
        while time.monotonic() < deadline:
            if name := self.ended():
                raise Stop(f"The {name} process stopped:\n{self._tail(name)}")
            try:
                with urllib.request.urlopen(url, timeout=2) as answer:
                    if answer.status == 200:
                        return
            except OSError:
                pass
            time.sleep(0.1)
        tails = "".join(self._tail(name) for name in names)
        raise Stop(f"Not healthy after {seconds:.0f} s:\n{tails}")

    def stop(self) -> None:
        for child in self.running.values():
            if child.poll() is None:
                child.send_signal(signal.SIGTERM)
        for child in self.running.values():
            try:
                child.wait(timeout=10)
            except subprocess.TimeoutExpired:
                child.kill()
                child.wait()
        self.running.clear()

    def again(self, name: str) -> None:
        """Start a process that has ended once more, the way it was started."""
        self._start(name, *self.commands[name], fresh=False)

    def _start(self, name: str, *arguments: str, fresh: bool = True) -> None:
        LOGS.mkdir(parents=True, exist_ok=True)
        self.commands[name] = arguments
        # What it said before it ended is what one wants to read.
        with self.log(name).open("wb" if fresh else "ab") as log:
            # A session of its own: Ctrl-C reaches only us, and we stop the children in order.
            self.running[name] = subprocess.Popen(
                python_command(*arguments), cwd=ROOT, env=self.env, stdout=log, stderr=log, start_new_session=True
            )

    def _tail(self, name: str) -> str:
        path = self.log(name)
        return path.read_text(errors="replace")[-1500:] if path.exists() else ""


class Keeper:
    """Watches children: what ends is started again, with growing pauses; one that fails again and again ends it all.

    Parameters
    ----------
    optional
        Names of those without which everything works: they are left alone when they fail too often.
    clock
        Seconds that only grow.
    """

    MOST_PER_MINUTE = 5
    PAUSES = (0.5, 1.0, 2.0, 4.0, 8.0)

    def __init__(
        self,
        processes: Processes,
        *,
        optional: frozenset[str] = frozenset(),
        clock: Callable[[], float] = time.monotonic,
    ) -> None:
        self.processes, self.optional, self.clock = processes, optional, clock
        self.failures: dict[str, list[float]] = {}
        self.due: dict[str, float] = {}
        self.given_up: set[str] = set()

    def look(self) -> str | None:
        """Once around: start again what is due. The name of a process that cannot be kept up, or None."""
        now = self.clock()
        for name, child in list(self.processes.running.items()):
            if name in self.given_up or child.poll() is None:
                continue
            if name in self.due:
                if now >= self.due[name]:
                    del self.due[name]
                    self.processes.again(name)
                    line(f"The {name} process is started again")
                continue
            recent = [at for at in self.failures.get(name, []) if now - at < 60] + [now]
            self.failures[name] = recent
            if len(recent) >= self.MOST_PER_MINUTE:
                if name not in self.optional:
                    return name
                self.given_up.add(name)
                line(
                    f"The {name} process failed {len(recent)} times in a minute and is left out; everything else works"
                )
                continue
            pause = self.PAUSES[len(recent) - 1]
            self.due[name] = now + pause
            line(f"The {name} process stopped (see {self.processes.log(name)}); starting it again in {pause:g} s")
        return None


def manage(env: dict[str, str], *arguments: str) -> str:
    """Run a management command and give what it printed.

    Raises
    ------
    Stop
        When it fails; with the end of its errors.
    """
    command = python_command(str(BACKEND / "manage.py"), *arguments)
    done = subprocess.run(command, cwd=ROOT, env=env, capture_output=True, text=True)
    if done.returncode:
        raise Stop(f"manage.py {arguments[0]} failed:\n{done.stdout[-1000:]}{done.stderr[-3000:]}")
    return done.stdout


def base_environment() -> dict[str, str]:
    return {**os.environ, "PYTHONPATH": f"{ROOT}:{BACKEND}", "DJANGO_SETTINGS_MODULE": "config.settings"}

"""`./relay start`: from a bare machine to a running application with demo data."""

import argparse
import json
import secrets
import signal
import subprocess
import threading
from contextlib import nullcontext
from datetime import date
from pathlib import Path
from types import FrameType

from demo.accounts import PASSWORD
from ops import cluster, frontend
from ops.machine import PDF_PACKAGES, ensure_packages, free_port, python_command
from ops.paths import RELAY, ROOT
from ops.processes import Keeper, Processes, base_environment, manage
from ops.say import Stop, line, step

FIRST_PORT = 8040
# The planner listens this far above the web's port.
PLANNER_ABOVE = 900
# Kept apart, so that a demo thrown away never takes a company's data with it.
DEMO_DATABASE, COMPANY_DATABASE = "demo", "company"


def run(options: argparse.Namespace) -> int:
    running, port, notes = launch(
        port=options.port, reset=options.reset_demo, demo=not options.no_demo, on=options.on, name="pg",
        first_pg_port=54320,
    )  # fmt: skip
    leave = threading.Event()

    def on_signal(_number: int, _frame: FrameType | None) -> None:
        leave.set()

    signal.signal(signal.SIGINT, on_signal)
    signal.signal(signal.SIGTERM, on_signal)
    _print_welcome(port, notes, demo=not options.no_demo)
    try:
        keeper = Keeper(running.processes, optional=frozenset({"monitors"}))
        while not leave.wait(0.5):
            if name := keeper.look():
                line(f"The {name} process stopped five times in a minute; see {running.processes.log(name)}")
                return 1
    finally:
        line("stopping")
        running.stop()
    return 0


class Running:
    """What a start has begun, to be stopped as one."""

    def __init__(self, processes: Processes, database: cluster.Cluster, env: dict[str, str]) -> None:
        self.processes = processes
        self.database = database
        self.env = env

    def stop(self) -> None:
        self.processes.stop()
        cluster.stop(self.database)


def launch(
    *, port: int | None, reset: bool, demo: bool, name: str, first_pg_port: int, on: date | None = None,
    env: dict[str, str] | None = None,
) -> tuple[Running, int, list[str]]:  # fmt: skip
    """Install, migrate, build, load and start; returns what runs, its port, and notes for the user.

    Raises
    ------
    Stop
        When something is missing or fails; whatever was begun is stopped first.
    """
    ensure_packages(PDF_PACKAGES)
    database = cluster.start(name, first_port=first_pg_port)
    processes: Processes | None = None
    try:
        name_in_cluster = DEMO_DATABASE if demo else COMPANY_DATABASE
        environment = application_environment(database, name_in_cluster, demo=demo) | (env or {})
        frontend.ensure_build()
        cluster.ensure_database(database, name_in_cluster)
        notes = prepare_data(environment, reset=reset, demo=demo, on=on)
        chosen = free_port(port or FIRST_PORT)
        if chosen != (port or FIRST_PORT):
            line(f"port {port or FIRST_PORT} is taken: using {chosen}")
        planner_port = free_port(chosen + PLANNER_ABOVE)
        environment["RELAY_PLANNER_URL"] = f"http://127.0.0.1:{planner_port}"
        if demo:
            environment |= stand_in_directory(chosen)
        processes = Processes(environment, log_prefix="" if name == "pg" else f"{name}-")
        warm_planner(environment)
        with step(f"starting web, worker and planner on port {chosen}"):
            processes.start_planner(planner_port)
            processes.start_worker()
            processes.start_web(chosen)
            processes.wait_healthy(chosen)
            processes.wait_planner(planner_port)
            if demo and name == "pg":
                processes.start_monitors(chosen)
        return Running(processes, database, environment), chosen, notes
    except BaseException:
        if processes:
            processes.stop()
        cluster.stop(database)
        raise


def warm_planner(env: dict[str, str], *, quiet: bool = False) -> None:
    """Compile the planner's kernels once; where they are compiled already this takes a second or two."""
    with nullcontext() if quiet else step("preparing the planner (the first time: two minutes)"):
        code = "from core.scheduling.engine.warm import warm_up; warm_up()"
        done = subprocess.run(python_command("-c", code), cwd=ROOT, env=env, capture_output=True, text=True)
        if done.returncode:
            raise Stop(f"The planner does not start:\n{done.stderr[-3000:]}")


def application_environment(database: cluster.Cluster, name: str, *, demo: bool) -> dict[str, str]:
    return base_environment() | {
        "DATABASE_URL": database.url(name),
        "RELAY_SECRET_KEY": _secret_key(),
        "RELAY_DEMO": "1" if demo else "0",
        "RELAY_DEMO_PASSWORD": PASSWORD if demo else "",
        "RELAY_CACHE": str(RELAY / "cache"),
        "RELAY_INSECURE_COOKIES": "1",
    }


def stand_in_directory(port: int) -> dict[str, str]:
    """The demo signs in with a directory, too: a stand-in that its own web process serves."""
    return {
        "RELAY_OIDC_URL": f"http://127.0.0.1:{port}/stand-in/directory", "RELAY_OIDC_CLIENT": "iron-relay",
        "RELAY_OIDC_SECRET": "no secret, for it stands in the source of a demo",
        "RELAY_OIDC_NAME": "a directory (stand-in)",
    }  # fmt: skip


def prepare_data(env: dict[str, str], *, reset: bool, demo: bool, on: date | None = None) -> list[str]:
    """Migrate, and load the demo world into an empty database, around a day if one is named; one-time notes for the
    user."""
    with step("preparing the database"):
        state = json.loads(manage(env, "prepare"))
    if demo:
        if reset or not state["company"]:
            with step("loading the demo world"):
                manage(env, "load_demo", *(["--on", on.isoformat()] if on else []))
        return []
    return [] if state["company"] else [manage(env, "create_company").strip()]


def _secret_key() -> str:
    """A key made on the first start and kept for the next ones."""
    path: Path = RELAY / "secret-key"
    if not path.exists():
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_text(secrets.token_urlsafe(48))
        path.chmod(0o600)
    return path.read_text()


def _print_welcome(port: int, notes: list[str], *, demo: bool) -> None:
    print(f"\n  Iron Relay is running at http://127.0.0.1:{port}/\n")
    for note in notes:
        print(f"  {note}")
    if demo:
        from demo.accounts import SIGN_INS

        print("  Demo sign-ins (password for all: " + PASSWORD + ")")
        for sign_in in SIGN_INS:
            print(f"    {sign_in.email:38} {sign_in.role}")
    print("\n  Ctrl-C stops everything.\n", flush=True)

"""`./relay check`: everything a tool can say about the code without running it."""

import argparse
import subprocess
import tempfile
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from ops import frontend, mirrors
from ops.machine import python_command
from ops.paths import API_TYPES, ROOT
from ops.processes import base_environment
from ops.say import Stop, line
from ops.types import OFFLINE, write_types

PYTHON = ("backend", "demo", "ops", "tests")


def run(_options: argparse.Namespace) -> int:
    """Run every check, also after one has failed; 0 when all are content."""
    frontend.ensure_packages()
    checks: list[tuple[str, Callable[[], None]]] = [
        ("formatting of Python", lambda: _tool("ruff", "format", "--check", *PYTHON)),
        ("lint of Python", lambda: _tool("ruff", "check", *PYTHON)),
        ("types of Python", lambda: _tool("mypy")),
        ("import rules", lambda: _module("importlinter.cli", "lint_imports_command")),
        ("missing migrations", lambda: _django("makemigrations", "--check", "--dry-run")),
        ("formatting of the interface", lambda: _discard(frontend.run("npm", "run", "format"))),
        ("lint of the interface", lambda: _discard(frontend.run("npm", "run", "lint"))),
        ("types of the interface", lambda: _discard(frontend.run("npm", "run", "types"))),
        ("stale API types", _stale_types),
        ("who tests what", lambda: _discard("".join(mirrors.figures()))),
    ]
    # Each is one process and they do not touch each other: two at a time, for two cores.
    with ThreadPoolExecutor(max_workers=2) as pool:
        failures = sum(pool.map(lambda row: _is_wrong(*row), checks))
    for row in mirrors.figures() if not failures else ():
        print(f"  {row}")
    line("all checks passed" if not failures else f"{failures} of {len(checks)} checks failed")
    return 1 if failures else 0


def _is_wrong(name: str, check: Callable[[], None]) -> bool:
    """Carry a check out and say what came of it."""
    began = time.monotonic()
    try:
        check()
    except Stop as stop:
        line(f"checking {name} … failed\n{stop}")
        return True
    line(f"checking {name} … {time.monotonic() - began:.1f} s")
    return False


def _discard(_output: str) -> None:
    return None


def _tool(*command: str) -> None:
    _run(python_command("-m", *command))


def _module(module: str, function: str) -> None:
    _run(python_command("-c", f"from {module} import {function} as run; run()"))


def _django(*command: str) -> None:
    _run(python_command("backend/manage.py", *command), env=base_environment() | OFFLINE)


def _run(command: list[str], *, env: dict[str, str] | None = None) -> None:
    done = subprocess.run(
        command, cwd=ROOT, env=env or base_environment() | OFFLINE, stdout=subprocess.PIPE, stderr=subprocess.STDOUT,
        text=True,
    )  # fmt: skip
    if done.returncode:
        raise Stop(done.stdout[-6000:])


def _stale_types() -> None:
    with tempfile.TemporaryDirectory() as folder:
        fresh = Path(folder) / "schema.d.ts"
        write_types(fresh)
        if not API_TYPES.exists() or fresh.read_text() != API_TYPES.read_text():
            raise Stop("The API has changed: run './relay types' and commit the result.")

"""`./relay test`: the whole suite on a database cluster and ports of its own, beside a running start."""

import argparse
import subprocess

from ops import cluster, frontend
from ops.machine import ensure_packages, is_installed, python_command
from ops.paths import ROOT
from ops.say import step
from ops.start import application_environment, warm_planner

TEST_PG_PORT = 54420


def run(options: argparse.Namespace) -> int:
    """Everything without arguments; with arguments, what pytest makes of them."""
    ensure_browser()
    frontend.ensure_build()
    if not options.arguments:
        with step("testing the interface's own logic"):
            frontend.run("npm", "test")
    database = cluster.start("pg-test", first_port=TEST_PG_PORT)
    try:
        env = application_environment(database, "relay", demo=True) | {
            "DJANGO_ALLOW_ASYNC_UNSAFE": "1",
            "RELAY_CACHE": str(ROOT / ".relay" / "cache-test"),
            "RELAY_LOG_LEVEL": "WARNING",
        }
        warm_planner(env)  # or each of the two processes would compile for itself
        # Two processes for two cores; the browser journeys share one world and stay together in one of them.
        arguments = options.arguments or ["tests", "-n", "2", "--dist", "loadgroup"]
        return subprocess.run(python_command("-m", "pytest", *arguments), cwd=ROOT, env=env).returncode
    finally:
        cluster.stop(database)


def ensure_browser() -> None:
    """Debian's Chromium; downloads of other builds are not used."""
    if not is_installed("chromium"):
        ensure_packages(("chromium",))

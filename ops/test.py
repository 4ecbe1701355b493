"""`./relay test`: the whole suite on a database cluster and ports of its own, beside a running start."""

import argparse
import subprocess
from concurrent.futures import ThreadPoolExecutor

from ops import cluster, frontend, templates
from ops.machine import ensure_packages, is_installed, python_command
from ops.paths import ROOT
from ops.say import step
from ops.start import application_environment, warm_planner

TEST_PG_PORT = 54420


def run(options: argparse.Namespace) -> int:
    """Everything without arguments; with arguments, what pytest makes of them."""
    ensure_browser()
    frontend.ensure_build()
    database = cluster.start("pg-test", first_port=TEST_PG_PORT)
    try:
        env = application_environment(database, "relay", demo=True) | {
            "DJANGO_ALLOW_ASYNC_UNSAFE": "1",
            "RELAY_CACHE": str(ROOT / ".relay" / "cache-test"),
            "RELAY_LOG_LEVEL": "WARNING",
        }
        if options.arguments:
            warm_planner(env)
        else:
            env |= _interface_and_templates(env, database)
        # Two processes for two cores, each with a world of its own for the browser journeys.
        arguments = options.arguments or ["tests", "-n", "2", "--dist", "loadgroup"]
        return subprocess.run(python_command("-m", "pytest", *arguments), cwd=ROOT, env=env).returncode
    finally:
        cluster.stop(database)


def _interface_and_templates(env: dict[str, str], database: cluster.Cluster) -> dict[str, str]:
    """The interface's own tests; beside them, for compiling leaves one core idle, what the others begin with."""
    with ThreadPoolExecutor(max_workers=1) as beside:
        ready = beside.submit(_warm_and_make, env, database)
        with step("testing the interface's own logic"):
            frontend.run("npm", "test")
        with step("waiting for the planner and the databases"):
            return ready.result()


def _warm_and_make(env: dict[str, str], database: cluster.Cluster) -> dict[str, str]:
    warm_planner(env, quiet=True)
    return templates.make(env, database)


def ensure_browser() -> None:
    """Debian's Chromium; downloads of other builds are not used."""
    if not is_installed("chromium"):
        ensure_packages(("chromium",))

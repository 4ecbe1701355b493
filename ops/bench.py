"""`./relay bench`: print the benchmark figures."""

import argparse
import subprocess

from ops import cluster, frontend
from ops.machine import python_command
from ops.paths import ROOT
from ops.start import application_environment
from ops.test import TEST_PG_PORT


def run(options: argparse.Namespace) -> int:
    frontend.ensure_build()
    database = cluster.start("pg-test", first_port=TEST_PG_PORT)
    try:
        cluster.ensure_database(database, "bench")
        env = application_environment(database, "bench", demo=True) | {"RELAY_LOG_LEVEL": "WARNING"}
        command = python_command("-m", "tests.bench", *options.arguments)
        return subprocess.run(command, cwd=ROOT, env=env).returncode
    finally:
        cluster.stop(database)

"""`./relay shots`: start the demo without a screen and write docs/screenshots/."""

import argparse
import subprocess
from datetime import date
from pathlib import Path

from ops.machine import python_command
from ops.paths import ROOT
from ops.say import step
from ops.start import launch
from ops.test import ensure_browser

# Pictures of one day, whenever they are taken: they differ where a view does.
DAY = date(2026, 11, 25)


def run(options: argparse.Namespace) -> int:
    ensure_browser()
    into = Path(options.into) if options.into else ROOT / "docs" / "screenshots"
    into.mkdir(parents=True, exist_ok=True)
    running, port, _notes = launch(port=8140, reset=True, demo=True, on=DAY, name="pg-shots", first_pg_port=54520)
    try:
        with step("taking pictures"):
            command = python_command("-m", "demo.shots", f"http://127.0.0.1:{port}", str(into), *options.names)
            return subprocess.run(command, cwd=ROOT, env=running.env).returncode
    finally:
        running.stop()

"""`./relay lock`: pin every Python package, with hashes.

uv's own lock file names the host it was made from; requirements.lock names none, so that any mirror serves it.
"""

import argparse
import shutil
import subprocess

from ops.paths import RELAY, ROOT
from ops.say import step


def run(_options: argparse.Namespace) -> int:
    uv = shutil.which("uv") or str(RELAY / "uv" / "bin" / "uv")
    common = ["export", "--quiet", "--no-emit-project", "--no-annotate", "--no-header", "--format", "requirements-txt"]
    with step("pinning Python packages"):
        subprocess.run([uv, "lock", "--quiet"], cwd=ROOT, check=True)
        subprocess.run([uv, *common, "-o", "requirements.lock"], cwd=ROOT, check=True, stdout=subprocess.DEVNULL)
        subprocess.run(
            [uv, *common, "--only-group", "node", "-o", "ops/node.lock"],
            cwd=ROOT, check=True, stdout=subprocess.DEVNULL,
        )  # fmt: skip
    return 0

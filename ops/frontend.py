"""Packages and build of the interface; each is skipped when nothing it depends on has changed."""

import hashlib
import os
import subprocess
from collections.abc import Iterable
from pathlib import Path

from ops.machine import node_folder, python_command
from ops.paths import FRONTEND, RELAY, ROOT
from ops.say import Stop, step

SOURCES = ("package-lock.json", "vite.config.ts", "index.html", "tsconfig.json")


def environment() -> dict[str, str]:
    return {**os.environ, "PATH": f"{node_folder()}:{os.environ['PATH']}"}


def ensure_packages() -> None:
    """`npm ci`, unless the lock is the one installed last."""
    stamp = RELAY / "frontend-packages"
    now = _digest([FRONTEND / "package-lock.json"])
    if stamp.exists() and stamp.read_text() == now and (FRONTEND / "node_modules").exists():
        return
    with step("installing npm packages (about a minute)"):
        run("npm", "ci", "--no-audit", "--no-fund")
    stamp.write_text(now)


def ensure_build() -> None:
    """Build the interface, unless its sources are those built last."""
    ensure_packages()
    stamp = RELAY / "frontend-build"
    files = [FRONTEND / name for name in SOURCES]
    for folder in ("src", "public"):
        files += sorted(path for path in (FRONTEND / folder).rglob("*") if path.is_file())
    now = _digest(files)
    if stamp.exists() and stamp.read_text() == now and (FRONTEND / "dist" / "index.html").exists():
        return
    with step("building the interface"):
        run("npm", "run", "build")
        _compress(FRONTEND / "dist")
    stamp.write_text(now)


def _compress(folder: Path) -> None:
    """Beside every file that shrinks by it a packed one, which is served to who can unpack it."""
    command = python_command("-m", "whitenoise.compress", "--quiet", str(folder))
    done = subprocess.run(command, cwd=ROOT, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True)
    if done.returncode:
        raise Stop(f"packing the interface failed:\n{done.stdout[-2000:]}")


def run(*command: str) -> str:
    """Run in frontend/ and give what it printed.

    Raises
    ------
    Stop
        When it fails; with the end of what it printed.
    """
    done = subprocess.run(
        command, cwd=FRONTEND, env=environment(), stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True
    )
    if done.returncode:
        raise Stop(f"{' '.join(command)} failed:\n{done.stdout[-6000:]}")
    return done.stdout


def _digest(files: Iterable[Path]) -> str:
    digest = hashlib.sha256()
    for path in files:
        if path.exists():
            digest.update(str(path).encode() + b"\0" + path.read_bytes())
    return digest.hexdigest()

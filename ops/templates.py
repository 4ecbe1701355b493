"""Databases that the tests copy, instead of making each anew: one that is migrated, one with the demo.

A migrated database takes half a minute, the demo as long again; a copy takes less than a second.
"""

import json
import shutil
import time
from pathlib import Path

from ops import cluster
from ops.paths import RELAY
from ops.processes import manage

MIGRATED, DEMO = "template_migrated", "template_demo"
# The day of the demo in it.
DEMO_DAY = "2026-11-25"


def make(env: dict[str, str], database: cluster.Cluster) -> dict[str, str]:
    """Make both anew; what the environment of the tests says of them.

    Raises
    ------
    Stop
        When one cannot be made.
    """
    files = RELAY / "template-files"
    shutil.rmtree(files, ignore_errors=True)
    files.mkdir(parents=True)
    own = env | {
        "RELAY_FILES": str(files / "files"), "RELAY_MAILBOX": str(files / "mailbox"),
        "RELAY_EMAIL_URL": f"filemail:///{files / 'letters'}",
    }  # fmt: skip
    copy(database.url("postgres"), MIGRATED, of=None)
    manage(own | {"DATABASE_URL": database.url(MIGRATED)}, "prepare")
    copy(database.url("postgres"), DEMO, of=MIGRATED)
    loaded_at = time.time()
    manage(own | {"DATABASE_URL": database.url(DEMO)}, "load_demo", "--on", DEMO_DAY)
    return {"RELAY_TEMPLATES": json.dumps({"files": str(files), "loaded_at": loaded_at})}


def copy(server: str, name: str, *, of: str | None) -> None:
    """A database of that name, in place of one that is there: empty, or as `of` is.

    Parameters
    ----------
    server
        The address of another database of the cluster.
    """
    import psycopg

    template = f' TEMPLATE "{of}"' if of else ""
    with psycopg.connect(server, autocommit=True) as connection:
        connection.execute(f'DROP DATABASE IF EXISTS "{name}" WITH (FORCE)')
        connection.execute(f'CREATE DATABASE "{name}"{template}')


def copy_demo(server: str, name: str, *, said: str, files: Path) -> None:
    """A copy of the demo with its files; its clock says what it said when the demo was loaded.

    Parameters
    ----------
    said
        What `make` put into the environment, as RELAY_TEMPLATES.
    files
        A folder for what lies beside the database.
    """
    import psycopg

    about = json.loads(said)
    copy(server, name, of=DEMO)
    shutil.copytree(about["files"], files, dirs_exist_ok=True)
    passed = round(time.time() - about["loaded_at"])
    parts = server.rsplit("/", 1)[0]
    with psycopg.connect(f"{parts}/{name}", autocommit=True) as connection:
        connection.execute("UPDATE foundation_clockshift SET seconds = seconds - %s", [passed])

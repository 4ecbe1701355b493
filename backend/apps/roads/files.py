"""Extracts of OpenStreetMap from the interface: sent in parts, or lying on the machine; read in the background."""

import logging
import sys
from datetime import datetime, timedelta
from pathlib import Path
from subprocess import run

from django.conf import settings
from django.db import transaction

from apps.roads.bringing import bring_in
from apps.roads.models import RegionFile
from core.roads import BadRegion
from core.roles import Action
from foundation import audit, clock, jobs, live, parts
from foundation.actors import Actor, require
from foundation.errors import Conflict, Rejected

log = logging.getLogger(__name__)
TASK = "roads.bring_region"
ENDINGS = (".osm", ".osm.pbf", ".pbf", ".osm.gz", ".osm.bz2")
STUCK_SECONDS = 120
# The largest extracts are read in a few minutes; what takes so much longer will never end.
LONGEST_SECONDS = 6 * 3600


@transaction.atomic
def ask(*, actor: Actor, now: datetime, name: str, key: str = "", path: str = "") -> RegionFile:
    """Have an extract brought in: one that was sent (by its key), or one that lies on the machine (by its path).

    Raises
    ------
    Rejected
        In a demo, which lives in its own city; or when there is no such file.
    Conflict
        While another one is being brought in.
    """
    require(actor, Action.MANAGE_ACCOUNTS)
    if settings.DEMO:
        raise Rejected("The demo lives in its own city: start with --no-demo to bring in a region.", field="path")
    if RegionFile.objects.select_for_update().filter(state__in=("waiting", "running")).exists():
        raise Conflict("Another region is being brought in.", code="being_brought")
    file = _sent(actor, key, name) if key else _on_the_machine(path)
    row = RegionFile.objects.create(
        name=(name or file.name)[:300], path=str(file), sent=bool(key), asked_at=now, asked_by=actor.name, moved_at=now
    )
    audit.record(
        actor=actor, now=now, action="region", entity="region", entity_id=row.pk,
        sentence=f"had the region {row.name[:200]} brought in",
    )  # fmt: skip
    _enqueue(row)
    return row


def _sent(actor: Actor, key: str, name: str) -> Path:
    """Where it will lie once this holds: under a name by which its kind is known."""
    path = parts.whole(actor=actor, key=key)
    ending = next((end for end in ENDINGS if name.lower().endswith(end)), "")
    if not ending:
        raise Rejected(f"An extract ends in {', '.join(ENDINGS)}.", field="file")
    named = path.with_name(path.name + ending)
    transaction.on_commit(lambda: path.rename(named))
    return named


def _on_the_machine(path: str) -> Path:
    file = Path(path.strip())
    if not file.is_absolute() or not file.name.lower().endswith(ENDINGS):
        raise Rejected(f"Give the whole path of a file that ends in {', '.join(ENDINGS)}.", field="path")
    if not file.is_file():
        raise Rejected(f"There is no file {file} on the machine of the server.", field="path")
    return file


def latest() -> RegionFile | None:
    """The last one that was asked for."""
    return RegionFile.objects.order_by("-pk").first()


def work_apart(file_id: int) -> None:
    """Have it done by a process of its own."""
    manage = Path(settings.ROOT) / "backend" / "manage.py"
    done = run([sys.executable, str(manage), "work_region_file", str(file_id)], capture_output=True, text=True)
    if done.returncode:
        log.error("bringing in a region ended with %s: %s", done.returncode, done.stderr[-2000:])
        RegionFile.objects.filter(pk=file_id, state="running").update(
            state="failed", failure="It ended without a word: perhaps the memory of the machine is too small.",
        )  # fmt: skip
        live.announce("region")


def work(file_id: int) -> None:
    """Bring it in. Safe to run twice."""
    with transaction.atomic():
        row = RegionFile.objects.select_for_update().filter(pk=file_id, state="waiting").first()
        if row is None:
            return
        _say(row, state="running", step="beginning")

    def said(step: str, share: float) -> None:
        _say(row, step=step, share=share)

    try:
        lines = bring_in(Path(row.path), said=said)
    except BadRegion as error:
        _say(row, state="failed", failure=f"{error} The region stays as it was."[:300])
    else:
        _say(row, state="done", step="", share=1.0, report=lines)
    if row.sent:
        Path(row.path).unlink(missing_ok=True)


def _say(row: RegionFile, **changes: object) -> None:
    for name, value in changes.items():
        setattr(row, name, value)
    row.moved_at = clock.now()
    row.save(update_fields=[*changes, "moved_at"])
    live.announce("region")


@transaction.atomic
def sweep(*, now: datetime) -> int:
    """Take up what waits and whose job was lost; say of what was begun and never ended that it failed. How many."""
    for row in RegionFile.objects.filter(state="waiting", moved_at__lt=now - timedelta(seconds=STUCK_SECONDS)):
        _enqueue(row)
    lost = RegionFile.objects.filter(state="running", moved_at__lt=now - timedelta(seconds=LONGEST_SECONDS))
    return lost.update(state="failed", failure="It was begun and never ended. Try again.")


def _enqueue(row: RegionFile) -> None:
    jobs.after_commit(TASK, lock=f"{TASK} {row.pk}", file_id=row.pk)

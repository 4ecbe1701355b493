"""Making an archive, and filling an installation from one; the worker's part."""

import json
import logging
import zipfile
from collections.abc import Callable, Iterable, Sequence
from functools import wraps
from pathlib import Path
from tempfile import TemporaryFile
from typing import Any

from django.apps import apps
from django.contrib.sessions.models import Session
from django.core.files import File
from django.core.files.storage import default_storage
from django.db import DataError, IntegrityError, OperationalError, models, transaction
from django.utils.module_loading import import_string

from apps.company.queries import forget_zone
from apps.customers.models import Customer
from apps.intake.models import Request
from apps.people.models import Account, Technician
from apps.set_up.archive import tables
from apps.set_up.archive.tables import Table
from apps.set_up.models import Archive
from foundation import clock, live
from foundation.errors import Rejected
from foundation.snapshot import one_moment

log = logging.getLogger(__name__)
MAKE, TAKE = "set_up.make_archive", "set_up.take_archive"
WHAT, VERSION = "company archive", 1


def ends_in_words(work: Callable[[int], None]) -> Callable[[int], None]:
    """Whatever goes wrong, the archive says that it failed and why: nobody waits for it for ever."""

    @wraps(work)
    def guarded(archive_id: int) -> None:
        try:
            work(archive_id)
        except Exception as error:
            log.exception("archive %s failed", archive_id)
            why = str(error) if isinstance(error, Rejected) else f"It failed: {error or type(error).__name__}."
            Archive.objects.filter(pk=archive_id).update(state="failed", failure=why[:300], moved_at=clock.now())
            live.announce("archive", ids=[archive_id])

    return guarded


@ends_in_words
def make(archive_id: int) -> None:
    """Write all tables and files as they are at one moment. Safe to run twice."""
    archive = _begin(archive_id)
    if archive is None:
        return
    with TemporaryFile() as file:
        rows = write_archive(file)
        archive.size, archive.rows = file.tell(), rows
        file.seek(0)
        archive.content.save(f"archive-{archive.pk}.zip", File(file), save=False)
    _end(archive, "done")


@ends_in_words
def take(archive_id: int) -> None:
    """Fill the installation from an archive: all of it, or nothing. Safe to run twice."""
    archive = _begin(archive_id)
    if archive is None:
        return
    with archive.content.open("rb") as file:
        archive.rows = read_archive(file, only_if=is_empty)
    _end(archive, "done")


def write_archive(file: Any) -> int:
    """All of the company into a zip file; how many rows."""
    rows = 0
    with one_moment(), zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED) as out:
        counts: dict[str, int] = {}
        for table in tables.tables():
            with out.open(f"tables/{table.name}.csv", "w", force_zip64=True) as part:
                counts[table.name] = tables.write(table, part)
            rows += counts[table.name]
        missing = [name for name in _file_names() if not _write_file(out, name)]
        out.writestr("archive.json", json.dumps(_about(counts, missing), indent=1))
    return rows


def _about(counts: dict[str, int], missing: Sequence[str]) -> dict[str, Any]:
    return {
        "what": WHAT, "version": VERSION, "made_at": clock.now().isoformat(), "migrations": tables.migrations(),
        "rows": counts, "missing_files": list(missing),
    }  # fmt: skip


def _file_fields() -> list[tuple[type[models.Model], str]]:
    return [
        (model, field.name)
        for model in apps.get_models()
        if model is not Archive
        for field in model._meta.get_fields()
        if isinstance(field, models.FileField)
    ]


def _file_names() -> list[str]:
    """Names of all files of records, as the storage knows them."""
    found: list[str] = []
    for model, field in _file_fields():
        found += [name for name in model._default_manager.values_list(field, flat=True).iterator() if name]
    return found


def _write_file(out: zipfile.ZipFile, name: str) -> bool:
    """False where the storage has lost it: the rest is worth having all the same."""
    try:
        with default_storage.open(name, "rb") as file, out.open(f"files/{name}", "w", force_zip64=True) as part:
            for chunk in file.chunks():
                part.write(chunk)
    except FileNotFoundError:
        log.warning("the file %s is not there; the archive is made without it", name)
        return False
    return True


def is_empty() -> bool:
    """Whether nobody has begun to work here."""
    return not any(model.objects.exists() for model in (Technician, Customer, Request))


def read_archive(file: Any, *, everybody_out: bool = True, only_if: Callable[[], bool] | None = None) -> int:
    """Everything as it stands in a zip file, in place of what is there; how many rows.

    Parameters
    ----------
    everybody_out
        Whether everybody signs in anew, because the accounts are those of elsewhere.
    only_if
        Asked once nobody else can write any more.

    Raises
    ------
    Rejected
        When it is no archive, one of another version, or is damaged. Then nothing has changed.
    """
    try:
        with zipfile.ZipFile(file) as zipped:
            found = tables.tables()
            _check(zipped, found)
            with transaction.atomic():
                rows = _fill(zipped, found, everybody_out, only_if)
                _read_files(zipped)
                transaction.on_commit(_known_anew)
    except zipfile.BadZipFile as error:
        raise Rejected("This is no archive, or it is damaged.", field="file") from error
    except OperationalError as error:
        raise Rejected("Others are at work just now. Try again in a moment.") from error
    except (IntegrityError, DataError) as error:
        log.warning("an archive was refused: %s", error)
        raise Rejected("The archive is damaged: its rows do not belong together.", field="file") from error
    return rows


def _check(zipped: zipfile.ZipFile, found: Sequence[Table]) -> None:
    names = set(zipped.namelist())
    if "archive.json" not in names:
        raise Rejected("This is no archive of a company.", field="file")
    try:
        about = json.loads(zipped.read("archive.json"))
    except ValueError as error:
        raise Rejected("This is no archive of a company.", field="file") from error
    if not isinstance(about, dict) or about.get("what") != WHAT or about.get("version") != VERSION:
        raise Rejected("This is no archive of a company.", field="file")
    if about.get("migrations") != tables.migrations():
        raise Rejected(
            "This archive was made by another version of Iron Relay: bring it in with that one, then bring that up to "
            "date.", field="file",
        )  # fmt: skip
    if missing := [table.name for table in found if f"tables/{table.name}.csv" not in names]:
        raise Rejected(f"The archive is damaged: {missing[0]} is missing.", field="file")


def _fill(
    zipped: zipfile.ZipFile, found: Sequence[Table], everybody_out: bool, only_if: Callable[[], bool] | None
) -> int:
    rows, files = 0, set(_file_names())
    tables.hold(found)
    if only_if is not None and not only_if():
        raise Rejected("Somebody has begun to work here meanwhile. Nothing was changed.", field="file")
    sessions = import_string("allauth.usersessions.models.UserSession").objects
    if everybody_out:
        Session.objects.all().delete()
        sessions.all().delete()
    with tables.emptied(found):
        for table in found:
            with zipped.open(f"tables/{table.name}.csv") as part:
                rows += tables.read(table, part)
        sessions.exclude(user_id__in=Account.objects.values("pk")).delete()
    # What no row refers to any more is gone with its rows.
    gone = files - set(_file_names())
    transaction.on_commit(lambda: _throw_away(gone), robust=True)
    return rows


def _throw_away(names: Iterable[str]) -> None:
    for name in names:
        default_storage.delete(name)


def _read_files(zipped: zipfile.ZipFile) -> None:
    """Files keep their names: rows refer to them by name. Of what rows do not refer to nothing is written."""
    names = set(zipped.namelist())
    for name in _file_names():
        if f"files/{name}" not in names or ".." in Path(name).parts or Path(name).is_absolute():
            continue
        if default_storage.exists(name):
            default_storage.delete(name)
        with zipped.open(f"files/{name}") as part:
            default_storage.save(name, File(part))


def _known_anew() -> None:
    forget_zone()
    for topic in ("company", "technician", "catalogue", "names", "visit", "request", "customer", "message", "account"):
        live.announce(topic)


def _begin(archive_id: int) -> Archive | None:
    """None: somebody else has it in hand, or it is done."""
    with transaction.atomic():
        archive = Archive.objects.select_for_update().filter(pk=archive_id, state="waiting").first()
        if archive is None:
            return None
        archive.state, archive.moved_at = "running", clock.now()
        archive.save(update_fields=["state", "moved_at"])
        return archive


def _end(archive: Archive, state: str) -> None:
    archive.state, archive.moved_at = state, clock.now()
    archive.save()
    live.announce("archive", ids=[archive.pk])

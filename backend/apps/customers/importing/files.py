"""What people do with a file: send it, say what its columns are, have it brought in, stop it, take back what failed."""

import csv
import io
from collections.abc import Iterator, Mapping, Sequence
from datetime import datetime, timedelta

from django.db import transaction
from django.db.models import Q

from apps.customers.importing.bringing import refused_of
from apps.customers.importing.reading import is_cards, own_keys, remember, rows_of
from apps.customers.importing.states import IMPORT, READ
from apps.customers.models import CustomerFile
from core.basics.tables import MARK, safe_cell
from core.customers import BadFile, FileRow, columns_of, headings_of
from core.roles import Action
from foundation import audit, jobs, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected

# What has not moved for so long is taken up again: its job was lost, or its worker has died.
STUCK_SECONDS = 120
# So long the refused rows of a file can be taken back and mended; a file nobody had brought in goes sooner.
ENDED_DAYS, LEFT_DAYS = 90, 30


@transaction.atomic
def upload(*, actor: Actor, now: datetime, kind: str, name: str, text: str) -> CustomerFile:
    """Keep a file and have it read in the background."""
    require(actor, Action.IMPORT)
    if kind not in dict(CustomerFile.KINDS):
        raise NotFound("There is no such kind of file.", code="no_kind")
    file = CustomerFile.objects.create(
        kind=kind, name=name[:200].replace("\x00", ""), text=text.replace("\x00", ""), uploaded_at=now,
        uploaded_by_id=actor.id, moved_at=now,
    )  # fmt: skip
    _enqueue(READ, file)
    return file


@transaction.atomic
def choose_columns(*, actor: Actor, now: datetime, file_id: int, columns: Mapping[str, str]) -> CustomerFile:
    """Say which column each heading means ("" for none), and have the file read again; remembered for the next one.

    Raises
    ------
    Rejected
        For a column that is not there, or one that is named twice.
    """
    require(actor, Action.IMPORT)
    file = _locked(file_id)
    if file.state not in ("columns", "read", "failed") or file.position:
        raise Conflict(f"“{file.name}” is {file.state}.", code="wrong_state")
    known, named = columns_of(file.kind, own_keys(file.kind)), [name for name in columns.values() if name]
    if wrong := [name for name in named if name not in known]:
        raise Rejected(f"There is no column {wrong[0]}.", field="columns")
    if len(set(named)) < len(named):
        twice = next(name for name in named if named.count(name) > 1)
        raise Rejected(f"Two headings cannot both be {twice}.", field="columns")
    file.columns = {title: columns.get(title, file.columns.get(title, "")) for title in headings_of(file.text)}
    remember(file.kind, file.columns)
    _go(file, now, "reading")
    _enqueue(READ, file)
    return file


@transaction.atomic
def accept(*, actor: Actor, now: datetime, file_id: int) -> CustomerFile:
    """Have the accepted rows of a file brought in, in the background; or go on where it stopped or failed.

    Raises
    ------
    Conflict
        When it is under way or done.
    """
    require(actor, Action.IMPORT)
    file = _locked(file_id)
    if file.state not in ("read", "stopped") and not (file.state == "failed" and file.position):
        raise Conflict(f"“{file.name}” is {file.state} already.", code="wrong_state")
    if not file.counts.get("new") and not file.counts.get("change"):
        raise Rejected("No row of this file would make or change anything.", code="nothing_to_make")
    again = file.position > 0
    _go(file, now, "importing")
    audit.record(
        actor=actor, now=now, action="import", entity="customer file", entity_id=file.pk,
        sentence=f"{'went on bringing' if again else 'brought'} in {file.name}",
    )  # fmt: skip
    _enqueue(IMPORT, file)
    return file


@transaction.atomic
def stop(*, actor: Actor, now: datetime, file_id: int) -> CustomerFile:
    """Stop bringing in; what came in stays, and one can go on later."""
    require(actor, Action.IMPORT)
    file = _locked(file_id)
    if file.state != "importing":
        raise Conflict(f"“{file.name}” is {file.state}: there is nothing to stop.", code="wrong_state")
    file.stop_asked = True
    file.save(update_fields=["stop_asked"])
    audit.record(
        actor=actor, now=now, action="stop", entity="customer file", entity_id=file.pk, sentence=f"stopped {file.name}"
    )
    live.announce("file", ids=[file.pk])
    return file


@transaction.atomic
def sweep(*, now: datetime) -> int:
    """Take up files whose job was lost; how many. Whoever still has one in hand keeps it."""
    late = Q(moved_at__lt=now - timedelta(seconds=STUCK_SECONDS)) | Q(moved_at__isnull=True)
    stuck = list(CustomerFile.objects.defer("text", "rows").filter(late, state__in=("reading", "importing")))
    for file in stuck:
        _enqueue(READ if file.state == "reading" else IMPORT, file)
    return len(stuck)


def retire(*, now: datetime) -> int:
    """Throw away the contents of files that ended long ago, and files that were only looked at; how many. What came of
    each stays: its counts, and the history of every record."""
    ended = CustomerFile.objects.filter(ended_at__lt=now - timedelta(days=ENDED_DAYS)).exclude(text="")
    left = CustomerFile.objects.filter(
        ended_at__isnull=True, state__in=("columns", "read", "failed"), uploaded_at__lt=now - timedelta(days=LEFT_DAYS)
    )
    return ended.update(text="", rows=[], refused=[], seen={}) + left.delete()[0]


def _go(file: CustomerFile, now: datetime, state: str) -> None:
    file.state, file.share, file.failure, file.stop_asked, file.moved_at = state, file.share, "", False, now
    file.save(update_fields=["state", "failure", "stop_asked", "columns", "moved_at"])
    live.announce("file", ids=[file.pk])


def _enqueue(task: str, file: CustomerFile) -> None:
    jobs.after_commit(task, lock=f"{task} {file.pk}", file_id=file.pk)


def _locked(file_id: int) -> CustomerFile:
    found = CustomerFile.objects.select_for_update().filter(pk=file_id).first()
    if found is None:
        raise NotFound("That file is not here (any more).", code="no_file")
    return found


def file(file_id: int) -> CustomerFile:
    found = CustomerFile.objects.defer("text").filter(pk=file_id).first()
    if found is None:
        raise NotFound("That file is not here (any more).", code="no_file")
    return found


def latest_files(*, limit: int = 10) -> list[CustomerFile]:
    return list(CustomerFile.objects.defer("text", "rows").order_by("-id")[:limit])


def refused_rows(file_id: int) -> Iterator[str]:
    """The refused rows as a CSV file like the one that was sent, with a column that says why: to be mended and sent
    again."""
    found = CustomerFile.objects.filter(pk=file_id).first()
    if found is None:
        raise NotFound("That file is not here (any more).", code="no_file")
    if not found.text:
        raise NotFound(f"Its rows were thrown away {ENDED_DAYS} days after it was brought in.", code="no_file")
    try:
        rows = rows_of(found)
        titles = columns_of("contacts") if is_cards(found) else headings_of(found.text)
    except BadFile as error:
        raise Rejected(str(error), code="bad_file") from error
    return _lines([*titles, "refused because"], refused_of(found, rows), len(titles))


def _lines(titles: list[str], refused: Sequence[tuple[FileRow, str]], width: int) -> Iterator[str]:
    yield MARK + _line(titles)
    for row, why in refused:
        yield _line([*(row.written + [""] * width)[:width], why])


def _line(cells: list[str]) -> str:
    buffer = io.StringIO()
    csv.writer(buffer).writerow([safe_cell(cell) for cell in cells])
    return buffer.getvalue()

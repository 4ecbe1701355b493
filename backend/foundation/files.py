"""Files that belong to records: kept, listed, handed out."""

import mimetypes
from collections.abc import Collection
from datetime import datetime, timedelta
from typing import Protocol

from django.core.files.base import ContentFile

from foundation import audit
from foundation.actors import Actor
from foundation.errors import NotFound, Rejected
from foundation.models import StoredFile

LARGEST = 12 * 1024 * 1024
# Shown in the browser; everything else is only ever downloaded.
SHOWN = frozenset({"image/png", "image/jpeg", "image/gif", "image/webp", "application/pdf", "text/plain"})


# Where files are kept that belong to no record yet: at the desk of whoever is making it.
DESK = "desk"
DESK_DAYS = 60


class Exists(Protocol):
    """Whether there is a record of that number."""

    def __call__(self, record_id: int, /) -> bool: ...


_records: dict[str, Exists] = {}


def belong_to(record: str, exists: Exists) -> None:
    """Let records of a kind have files. Said by the capability whose records they are, when it starts."""
    _records[record] = exists


def check_record(record: str, record_id: int) -> None:
    """There is such a record.

    Raises
    ------
    NotFound
    """
    exists = _records.get(record)
    if exists is None:
        raise NotFound("There are no files of that.", code="no_record")
    if not exists(record_id):
        raise NotFound(f"There is no such {record} (any more).", code=f"no_{record}")


def keep_at_desk(*, actor: Actor, now: datetime, name: str, content: bytes, media_type: str = "") -> StoredFile:
    """Keep a file for a record that is still being made; `take_up` gives it to the record.

    Raises
    ------
    Rejected
        As for `keep`.
    """
    return _keep(actor, now, (DESK, actor.id), name, content, media_type)


def are_at_hand(actor: Actor, ids: Collection[int], *, records: Collection[tuple[str, int]]) -> bool:
    """Whether each of these files is at this person's desk or belongs to one of these records."""
    places = {*records, (DESK, actor.id)}
    rows = StoredFile.objects.filter(pk__in=ids).values_list("record", "record_id")
    return len(rows) == len(set(ids)) and all(row in places for row in rows)


def take_up(*, actor: Actor, ids: Collection[int], to: tuple[str, int]) -> None:
    """Give files from this person's desk to the record that they were kept for."""
    rows = StoredFile.objects.filter(pk__in=ids, record=DESK, record_id=actor.id)
    rows.update(record=to[0], record_id=to[1])


def clear_desks(*, now: datetime) -> int:
    """Throw away what was never taken up; how many files."""
    old = list(StoredFile.objects.filter(record=DESK, at__lt=now - timedelta(days=DESK_DAYS))[:500])
    for row in old:
        content = row.content
        row.delete()
        content.delete(save=False)  # after the row: nothing points at a file that is gone
    return len(old)


def keep(
    *, actor: Actor, now: datetime, record: str, record_id: int, name: str, content: bytes, media_type: str = ""
) -> StoredFile:
    """Keep a file with a record.

    Raises
    ------
    Rejected
        When it is empty or too large.
    NotFound
        When there is no such record.
    """
    check_record(record, record_id)
    return _keep(actor, now, (record, record_id), name, content, media_type)


def _keep(
    actor: Actor, now: datetime, where: tuple[str, int], name: str, content: bytes, media_type: str
) -> StoredFile:
    record, record_id = where
    name = "".join(letter for letter in name.replace("\\", "/").split("/")[-1] if letter.isprintable())[-200:] or "file"
    if not content:
        raise Rejected(f"“{name}” is empty.", field="file")
    if len(content) > LARGEST:
        raise Rejected(f"“{name}” is larger than {LARGEST // 1024 // 1024} MB.", field="file")
    kind = media_type or mimetypes.guess_type(name)[0] or "application/octet-stream"
    row = StoredFile(
        record=record, record_id=record_id, name=name, media_type=kind[:100], size=len(content), at=now, by=actor.name
    )
    row.content.save(name[-80:], ContentFile(content), save=False)
    row.save()
    audit.record(
        actor=actor, now=now, action="file", entity=record, entity_id=record_id, sentence=f"added the file {name}",
        file=row.pk,
    )  # fmt: skip
    return row


def carry_over(record: tuple[str, int], *, to: tuple[str, int]) -> None:
    """Let the files of a record belong to another one as well: what it has become."""
    rows = StoredFile.objects.filter(record=record[0], record_id=record[1]).order_by("id")
    StoredFile.objects.bulk_create(_for(row, to) for row in rows)


def also_for(row: StoredFile, record: tuple[str, int]) -> StoredFile:
    """Let a file belong to another record as well."""
    made = _for(row, record)
    made.save()
    return made


def _for(row: StoredFile, record: tuple[str, int]) -> StoredFile:
    return StoredFile(
        record=record[0], record_id=record[1], name=row.name, media_type=row.media_type, size=row.size,
        content=row.content.name, at=row.at, by=row.by,
    )  # fmt: skip


def of(record: str, record_id: int) -> list[StoredFile]:
    return list(StoredFile.objects.filter(record=record, record_id=record_id).order_by("-id"))


def one(file_id: int) -> StoredFile:
    found = StoredFile.objects.filter(pk=file_id).first()
    if found is None:
        raise NotFound("There is no such file.", code="no_file")
    return found

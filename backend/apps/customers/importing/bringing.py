"""Bringing the accepted rows of a file in, some at a time.

Each batch is a transaction of its own that holds the locks of its records only for its own moment; how far the file is
stands in the same transaction, so that whoever takes it up again goes on exactly there.
"""

from collections.abc import Iterable, Sequence
from datetime import datetime
from typing import Any, cast

from django.db import transaction
from django.db.models.functions import Lower

from apps.company.models import Tag
from apps.customers.importing.matching import MATCHERS, Planned, differing, in_words
from apps.customers.importing.reading import in_words as row_in_words
from apps.customers.importing.reading import rows_of
from apps.customers.importing.states import ends_in_words, settle
from apps.customers.models import Asset, Contact, Customer, CustomerFile, Site
from apps.customers.search import make_findable
from core.customers import BadFile, FileRow
from foundation import audit, clock, live
from foundation.actors import Actor
from foundation.named import called

BATCH = 200
# So many of what was refused in the doing are shown with their reasons; the file of refused rows has them all.
MOST_REFUSED = 400
_MODELS: dict[str, Any] = {"customers": Customer, "sites": Site, "contacts": Contact, "assets": Asset}


@ends_in_words
def bring_in(file_id: int) -> None:
    """Bring in the accepted rows of a file, from where it is on. Safe to run twice, and to take up again."""
    file = CustomerFile.objects.select_related("uploaded_by").filter(pk=file_id, state="importing").first()
    if file is None:
        return
    try:
        rows = rows_of(file)
    except BadFile as error:
        settle(file.pk, state="failed", failure=str(error)[:300])
        return
    planned = _matched(file, rows)
    while file.position < len(planned):
        batch = planned[file.position : file.position + BATCH]
        with transaction.atomic():
            # Whoever else has the same file in hand waits here, and then finds it further on.
            locked = CustomerFile.objects.select_for_update().defer("text", "rows").get(pk=file.pk)
            if locked.state != "importing" or locked.position != file.position:
                return
            if locked.stop_asked:
                locked.state = "stopped"
                locked.save(update_fields=["state"])
                live.announce("file", ids=[file.pk])
                return
            _Batch(file=locked, actor=cast(Actor, file.uploaded_by), now=clock.now()).write(batch)
            locked.position += len(batch)
            locked.share = locked.position / len(planned)
            locked.moved_at = clock.now()
            locked.save(update_fields=["position", "share", "outcome", "refused", "moved_at"])
            live.announce("file", ids=[file.pk])
            live.announce("customer")
        file.position = locked.position
    settle(file.pk, state="done", share=1, ended_at=clock.now())


def _matched(file: CustomerFile, rows: Sequence[FileRow]) -> list[Planned]:
    """Rows that are behind us are only looked at for twins of those to come."""
    matcher = MATCHERS[file.kind]()
    return [matcher.match_all(Planned(row=row)) for row in rows]


class _Batch:
    """Some rows, written as one."""

    def __init__(self, *, file: CustomerFile, actor: Actor, now: datetime) -> None:
        self.file, self.actor, self.now = file, actor, now
        self.model = _MODELS[file.kind]
        self.touched: set[int] = set()

    def write(self, batch: Sequence[Planned]) -> None:
        self._make([one for one in batch if one.becomes == "new"])
        self._change([one for one in batch if one.becomes == "change"])
        for one in batch:
            self._count(one)
        make_findable(self.touched)

    def _make(self, new: list[Planned]) -> None:
        if self.file.kind == "customers":
            new = self._still_new(new)
            for one in new:
                one.record.tags = self._keys_of(one, one.record.tags)
        self.model.objects.bulk_create([one.record for one in new])
        for one in new:
            self._tell(
                one.record, "added it from a file" if self.file.kind != "customers" else "added the customer", {}
            )
        self.touched |= {_customer_of(one.record) for one in new}

    def _still_new(self, new: list[Planned]) -> list[Planned]:
        """Whom somebody has made by hand since the file was read is not made a second time."""
        names = {one.record.name.casefold() for one in new}
        rows = Customer.objects.annotate(folded=Lower("name")).filter(
            folded__in=[name.lower() for name in names], merged_into__isnull=True
        )
        taken = {row.name.casefold() for row in rows}
        for one in new:
            if one.record.name.casefold() in taken:
                one.refuse(f"{one.record.name} was made meanwhile: read the file again to add to it")
        return [one for one in new if one.becomes == "new"]

    def _change(self, changed: list[Planned]) -> None:
        ids = sorted({one.record.pk for one in changed})
        # In the order of their keys, as everybody locks them.
        fresh = {row.pk: row for row in self.model.objects.select_for_update().filter(pk__in=ids).order_by("pk")}
        for one in changed:
            record = fresh.get(one.record.pk)
            if record is None:
                one.refuse("it is not there any more")
            elif record.version != self.file.seen.get(str(one.row.line)):
                one.refuse(f"{self._who(record)} meanwhile: read the file again")
            else:
                self._apply(one, record)

    def _who(self, record: Any) -> str:
        entity = self.file.kind.removesuffix("s")
        entries = audit.latest(entity, record.pk, limit=1) if entity != "contact" else []
        return f"{entries[0].actor_name} {entries[0].sentence}" if entries else "it was changed"

    def _apply(self, one: Planned, record: Any) -> None:
        if one.new_tags:
            one.values["tags"] = self._keys_of(one, one.values["tags"])
        changes = differing(record, one.values)
        if not changes:
            one.becomes = "same"
            return
        before = {name: getattr(record, name) for name in changes}
        for name, value in changes.items():
            setattr(record, name, value)
        record.version += 1
        record.save(update_fields=[*(name.removesuffix("_id") for name in changes), "version"])
        values = {name: [_plain(before[name]), _plain(value)] for name, value in changes.items()}
        self._tell(record, f"changed {in_words(changes)} from a file", values)
        self.touched.add(_customer_of(record))

    def _keys_of(self, one: Planned, tags: Sequence[str]) -> list[str]:
        """With the tags that the row is the first to use, which are made with it."""
        made = {name: self._tag(name) for name in one.new_tags}
        return list(dict.fromkeys(made.get(tag, tag) for tag in tags))

    def _tag(self, name: str) -> str:
        tag, made = called(Tag, name)
        if made:
            audit.record(
                actor=self.actor, now=self.now, action="make", entity="tag", entity_id=tag.pk,
                sentence=f"made the tag {tag.name} from a file",
            )  # fmt: skip
            live.announce("names")
        return tag.code

    def _tell(self, record: Any, sentence: str, values: dict[str, Any]) -> None:
        contact = self.file.kind == "contacts"
        audit.record(
            actor=self.actor, now=self.now, action="import", sentence=sentence, file=self.file.pk, values=values,
            entity="customer" if contact else self.file.kind.removesuffix("s"),
            entity_id=record.customer_id if contact else record.pk, version=0 if contact else record.version,
        )  # fmt: skip

    def _count(self, one: Planned) -> None:
        outcome = self.file.outcome
        outcome[one.becomes] = outcome.get(one.becomes, 0) + 1
        if one.becomes == "refused" and len(self.file.refused) < MOST_REFUSED:
            self.file.refused.append(row_in_words(one))


def _customer_of(record: Any) -> int:
    if isinstance(record, Customer):
        return record.pk
    found: int = record.site.customer_id if isinstance(record, Asset) else record.customer_id
    return found


def _plain(value: Any) -> Any:
    return value if isinstance(value, str | int | float | bool | list | dict | type(None)) else str(value)


def refused_of(file: CustomerFile, rows: Iterable[FileRow]) -> list[tuple[FileRow, str]]:
    """Rows that were or would be refused, with why."""
    matcher = MATCHERS[file.kind]()
    known = {row["line"]: "; ".join(row["problems"]) for row in file.refused}
    found = []
    for row in rows:
        one = matcher.match_all(Planned(row=row))
        why = known.get(row.line) or ("; ".join(one.row.problems) if one.becomes == "refused" else "")
        if why:
            found.append((row, why))
    return found

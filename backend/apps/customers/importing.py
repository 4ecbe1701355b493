"""Customers, sites, contacts and assets from files: what each row would make or change, and doing it, all or nothing.

Both are done by the worker, so that fifty thousand rows keep nobody waiting.
"""

from abc import ABC, abstractmethod
from collections import Counter
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any

from django.db import models, transaction
from procrastinate.contrib.django import app as queue

from apps.company.queries import area_at, record_fields, settings
from apps.customers.models import Asset, Contact, Customer, CustomerFile, Site
from apps.customers.search import make_findable
from apps.roads.queries import find_addresses
from core.basics import Place, phone_key
from core.customers import BadFile, FileRow, read_rows, read_vcards
from core.forms import check_answers
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected

READ, IMPORT = "customers.read_file", "customers.import_file"
# Surer than this, an address of a file is taken as found.
SURE_LIKENESS = 88.0
# Rows kept for the screen: the refused ones first.
SHOWN_ROWS = 600
TELL_EVERY = 500
BATCH = 2000


@dataclass(kw_only=True)
class Planned:
    """A row and what becomes of it: "new", "change", "same" or "refused"."""

    row: FileRow
    becomes: str = "new"
    record: models.Model | None = None
    notes: list[str] = field(default_factory=list)

    def refuse(self, why: str) -> None:
        self.becomes = "refused"
        self.row.problems.append(why)


@transaction.atomic
def upload(*, actor: Actor, now: datetime, kind: str, name: str, text: str) -> CustomerFile:
    """Keep a file and have it read in the background."""
    require(actor, Action.IMPORT)
    if kind not in dict(CustomerFile.KINDS):
        raise NotFound("There is no such kind of file.", code="no_kind")
    file = CustomerFile.objects.create(
        kind=kind, name=name[:200].replace("\x00", ""), text=text.replace("\x00", ""), uploaded_at=now,
        uploaded_by_id=actor.id,
    )  # fmt: skip
    queue.configure_task(READ).defer(file_id=file.pk)
    return file


@transaction.atomic
def accept(*, actor: Actor, now: datetime, file_id: int) -> CustomerFile:
    """Have the accepted rows of a file that was read brought in, in the background.

    Raises
    ------
    Conflict
        When that was asked before.
    """
    require(actor, Action.IMPORT)
    file = CustomerFile.objects.select_for_update().defer("text").filter(pk=file_id).first()
    if file is None:
        raise NotFound("That file is not here (any more).", code="no_file")
    if file.state != "read":
        raise Conflict(f"“{file.name}” is {file.state} already.", code="wrong_state")
    if not file.counts.get("new") and not file.counts.get("change"):
        raise Rejected("No row of this file would make or change anything.", code="nothing_to_make")
    file.state, file.share = "importing", 0
    file.save(update_fields=["state", "share"])
    audit.record(
        actor=actor, now=now, action="import", entity="customer file", entity_id=file.pk,
        sentence=f"brought in {file.name}",
    )  # fmt: skip
    queue.configure_task(IMPORT).defer(file_id=file.pk)
    live.announce("file", ids=[file.pk])
    return file


def read(file_id: int) -> None:
    """Say row by row what a file would make. Safe to run twice; changes no customer."""
    file = CustomerFile.objects.filter(pk=file_id, state="reading").first()
    if file is None:
        return
    try:
        planned, unknown = plan(file, tell=_teller(file))
    except BadFile as error:
        _set(file, state="failed", failure=str(error)[:300])
        return
    counts = Counter(one.becomes for one in planned)
    shown = sorted(planned, key=lambda one: (one.becomes != "refused", one.becomes == "same"))[:SHOWN_ROWS]
    rows = [
        {"line": one.row.line, "becomes": one.becomes, "words": _words(one.row), "notes": one.notes,
         "problems": one.row.problems}
        for one in shown
    ]  # fmt: skip
    counts_out: dict[str, Any] = dict(counts) | ({"unknown": unknown} if unknown else {})
    _set(file, state="read", share=1, counts=counts_out, rows=rows)


def bring_in(file_id: int) -> None:
    """Bring in the accepted rows of a file, in one transaction: a worker that dies leaves nothing half done."""
    file = CustomerFile.objects.filter(pk=file_id, state="importing").first()
    if file is None:
        return
    try:
        planned, _unknown = plan(file, tell=_teller(file))
        with transaction.atomic():
            changed = _write(file.kind, planned)
            make_findable(changed)
            CustomerFile.objects.filter(pk=file.pk).update(state="done", share=1)
            live.announce("file", ids=[file.pk])
            live.announce("customer")
    except BadFile as error:
        _set(file, state="failed", failure=str(error)[:300])


def _teller(file: CustomerFile) -> Callable[[float], None]:
    return lambda share: _set(file, share=min(0.9, share))


def _set(file: CustomerFile, **values: Any) -> None:
    with transaction.atomic():
        CustomerFile.objects.filter(pk=file.pk).update(**values)
        live.announce("file", ids=[file.pk])


def _words(row: FileRow) -> str:
    cells = row.cells
    parts = [cells.get(name) for name in ("customer", "name", "site", "kind", "serial", "address", "phone")]
    return " · ".join(str(part) for part in parts if part)[:160]


def plan(file: CustomerFile, *, tell: Callable[[float], None]) -> tuple[list[Planned], list[str]]:
    """What becomes of every row; and the columns that were not known."""
    vcards = file.kind == "contacts" and file.text.lstrip().upper().startswith("BEGIN:VCARD")
    rows, unknown = read_vcards(file.text) if vcards else read_rows(file.kind, file.text)
    matcher = _MATCHERS[file.kind]()
    planned = []
    for number, row in enumerate(rows):
        one = Planned(row=row)
        if row.problems:
            one.becomes = "refused"
        else:
            matcher.match(one)
        planned.append(one)
        if number % TELL_EVERY == 0:
            tell(number / max(1, len(rows)))
    return planned, unknown


class _Matcher(ABC):
    """Holds what is known, so that thousands of rows need a handful of queries."""

    record = ""

    def __init__(self) -> None:
        self.country = settings().phone_country
        rows = Customer.objects.filter(merged_into__isnull=True).order_by("-id")
        self.customers = {customer.name.casefold(): customer for customer in rows}
        self.questions = record_fields(self.record) if self.record else ()
        self.seen: dict[Any, int] = {}

    @abstractmethod
    def match(self, planned: Planned) -> None:
        """Say what becomes of a row: the record that is made or changed, or why it is refused."""

    def extra(self, planned: Planned) -> dict[str, Any]:
        """Own fields of the row: columns called extra.<key>."""
        known = {question.key for question in self.questions}
        given = {k.removeprefix("extra."): v for k, v in planned.row.cells.items() if k.startswith("extra.") and v}
        clean, problems = check_answers(self.questions, {k: v for k, v in given.items() if k in known})
        for key, problem in problems.items():
            planned.refuse(f"{key}: {problem}")
        return clean

    def once(self, planned: Planned, key: Any) -> bool:
        first = self.seen.setdefault(key, planned.row.line)
        if first != planned.row.line:
            planned.refuse(f"the same as line {first}")
        return first == planned.row.line

    def change(self, planned: Planned, record: models.Model, values: dict[str, Any]) -> None:
        """Take over what the row says and the record does not; an empty cell changes nothing."""
        # The same number in another notation is the same number.
        same = {"phone"} if values.get("phone_key") == getattr(record, "phone_key", None) else set()
        differing = {
            k: v for k, v in values.items() if v not in (None, "", [], {}) and k not in same and getattr(record, k) != v
        }
        planned.record = record
        planned.becomes = "change" if differing else "same"
        if differing:
            planned.notes.append(
                f"changes {', '.join(sorted(k.removesuffix('_id') for k in differing if k != 'phone_key'))}"
            )
        for name, value in differing.items():
            setattr(record, name, {**getattr(record, name), **value} if name == "extra" else value)

    def customer(self, planned: Planned) -> Customer | None:
        name = planned.row.cells["customer"]
        found = self.customers.get(name.casefold())
        if found is None:
            planned.refuse(f"no customer called {name}: bring in the customers first")
        return found


class _Customers(_Matcher):
    record = "customer"

    def __init__(self) -> None:
        super().__init__()
        self.by_phone = {c.phone_key: c for c in self.customers.values() if len(c.phone_key) > 6}
        self.by_email = {c.email.casefold(): c for c in self.customers.values() if c.email}

    def match(self, planned: Planned) -> None:
        cells = planned.row.cells
        key = phone_key(cells.get("phone") or "", self.country)
        if not self.once(planned, cells["name"].casefold()):
            return
        payer = self.customers.get((cells.get("payer") or "").casefold())
        if cells.get("payer") and payer is None:
            planned.refuse(f"no customer called {cells['payer']} to pay for it")
            return
        values = {
            "name": cells["name"], "phone": cells.get("phone") or "", "phone_key": key,
            "email": cells.get("email") or "", "payer_id": payer.pk if payer else None,
            "needs_po_number": cells.get("needs_po_number", False), "tags": cells.get("tags") or [],
            "extra": self.extra(planned),
        }  # fmt: skip
        if planned.becomes == "refused":
            return
        known = self.customers.get(cells["name"].casefold())
        if known is None and len(key) > 6 and (known := self.by_phone.get(key)) is not None:
            planned.notes.append(f"known by its phone as {known.name}")
        if known is None and (known := self.by_email.get((cells.get("email") or "-").casefold())) is not None:
            planned.notes.append(f"known by its e-mail as {known.name}")
        if known is not None:
            self.change(planned, known, {k: v for k, v in values.items() if k != "name"})
            return
        planned.record = Customer(**values)


class _Sites(_Matcher):
    record = "site"

    def __init__(self) -> None:
        super().__init__()
        self.sites: dict[tuple[int, str], Site] = {}
        for site in Site.objects.order_by("-id"):
            for name in (site.name, site.address):
                self.sites[site.customer_id, name.casefold()] = site
        self.addresses: dict[str, tuple[str, Place] | str] = {}

    def match(self, planned: Planned) -> None:
        cells = planned.row.cells
        customer = self.customer(planned)
        name = cells.get("name") or cells["address"].split(",")[0]
        if customer is None or not self.once(planned, (customer.pk, name.casefold(), cells["address"].casefold())):
            return
        extra = self.extra(planned)
        known = self.sites.get((customer.pk, name.casefold())) or self.sites.get(
            (customer.pk, cells["address"].casefold())
        )
        if planned.becomes == "refused":
            return
        if known is not None:
            self.change(planned, known, {"access_notes": cells.get("access_notes") or "", "extra": extra})
            return
        found = self.place(planned)
        if found is None:
            return
        address, place = found
        area = area_at(place)
        planned.notes.append(f"in {area.name}" if area else "outside every area")
        planned.record = Site(
            customer=customer, name=name, address=address, lon=place.lon, lat=place.lat, area=area,
            access_notes=cells.get("access_notes") or "", extra=extra,
        )  # fmt: skip

    def place(self, planned: Planned) -> tuple[str, Place] | None:
        cells = planned.row.cells
        if cells.get("lon") is not None:
            return cells["address"], Place(cells["lon"], cells["lat"])
        text = cells["address"]
        if text not in self.addresses:
            matches = find_addresses(text, limit=1)
            sure = bool(matches) and matches[0].likeness >= SURE_LIKENESS
            near = f"; did you mean {matches[0].address.text}?" if matches else ""
            problem = f"address “{text}” is not on the map{near}"
            self.addresses[text] = (matches[0].address.text, matches[0].place) if sure else problem
        found = self.addresses[text]
        if isinstance(found, str):
            planned.refuse(found)
            return None
        return found


class _Contacts(_Matcher):
    def __init__(self) -> None:
        super().__init__()
        self.contacts = {(c.customer_id, c.name.casefold()): c for c in Contact.objects.order_by("-id")}
        self.sites = {(s.customer_id, s.name.casefold()): s for s in Site.objects.order_by("-id")}

    def match(self, planned: Planned) -> None:
        cells = planned.row.cells
        customer = self.customer(planned)
        if customer is None or not self.once(planned, (customer.pk, cells["name"].casefold())):
            return
        site = self.sites.get((customer.pk, (cells.get("site") or "").casefold()))
        if cells.get("site") and site is None:
            planned.refuse(f"{customer.name} has no site called {cells['site']}")
            return
        values = {
            "name": cells["name"], "role": cells.get("role") or "", "phone": cells.get("phone") or "",
            "phone_key": phone_key(cells.get("phone") or "", self.country), "email": cells.get("email") or "",
            "site_id": site.pk if site else None,
        }  # fmt: skip
        known = self.contacts.get((customer.pk, cells["name"].casefold()))
        if known is not None:
            self.change(planned, known, values)
            return
        planned.record = Contact(customer=customer, **values)


class _Assets(_Matcher):
    record = "asset"

    def __init__(self) -> None:
        super().__init__()
        self.sites: dict[tuple[int, str], Site] = {}
        for site in Site.objects.order_by("-id"):
            for name in (site.address, site.name):
                self.sites[site.customer_id, name.casefold()] = site
        self.by_serial = {a.serial.casefold(): a for a in Asset.objects.select_related("site") if a.serial}

    def match(self, planned: Planned) -> None:
        cells = planned.row.cells
        customer = self.customer(planned)
        if customer is None:
            return
        site = self.sites.get((customer.pk, cells["site"].casefold()))
        if site is None:
            planned.refuse(f"{customer.name} has no site called {cells['site']}")
            return
        serial = cells.get("serial") or ""
        if serial and not self.once(planned, serial.casefold()):
            return
        state = cells.get("state") or "in service"
        if state not in dict(Asset.STATES):
            planned.refuse(f"state “{state}” is not one of {', '.join(dict(Asset.STATES))}")
            return
        values = {name: cells.get(name) or "" for name in ("kind", "make", "model", "serial")} | {
            "installed_on": cells.get("installed_on"), "warranty_until": cells.get("warranty_until"), "state": state,
            "extra": self.extra(planned),
        }  # fmt: skip
        known = self.by_serial.get(serial.casefold()) if serial else None
        if planned.becomes == "refused":
            return
        if known is not None and known.site.customer_id != customer.pk:
            planned.refuse(f"{serial} is the serial number of an asset of another customer")
        elif known is not None:
            self.change(planned, known, {**values, "site_id": site.pk})
        else:
            planned.record = Asset(site=site, **values)


_MATCHERS: dict[str, type[_Matcher]] = {
    "customers": _Customers,
    "sites": _Sites,
    "contacts": _Contacts,
    "assets": _Assets,
}
_CHANGED = {
    "customers": ("phone", "phone_key", "email", "payer", "needs_po_number", "tags", "extra"),
    "sites": ("access_notes", "extra"),
    "contacts": ("role", "phone", "phone_key", "email", "site"),
    "assets": ("kind", "make", "model", "installed_on", "warranty_until", "state", "site", "extra"),
}


def _write(kind: str, planned: list[Planned]) -> set[int]:
    """Write what is new and what changed; ids of the customers concerned."""
    new = [one.record for one in planned if one.becomes == "new" and one.record is not None]
    changed = [one.record for one in planned if one.becomes == "change" and one.record is not None]
    model = {"customers": Customer, "sites": Site, "contacts": Contact, "assets": Asset}[kind]
    model.objects.bulk_create(new, batch_size=BATCH)  # type: ignore[attr-defined]
    for record in changed:
        if hasattr(record, "version"):
            record.version += 1
    columns = [*_CHANGED[kind], *(["version"] if hasattr(model, "version") else [])]
    model.objects.bulk_update(changed, columns, batch_size=BATCH)  # type: ignore[attr-defined]
    return set(_customers_of([*new, *changed]))


def _customers_of(records: Iterable[Any]) -> Iterator[int]:
    for record in records:
        if isinstance(record, Customer):
            yield record.pk
        else:
            yield record.site.customer_id if isinstance(record, Asset) else record.customer_id


def file(file_id: int) -> CustomerFile:
    found = CustomerFile.objects.defer("text").filter(pk=file_id).first()
    if found is None:
        raise NotFound("That file is not here (any more).", code="no_file")
    return found


def latest_files(*, limit: int = 10) -> list[CustomerFile]:
    return list(CustomerFile.objects.defer("text", "rows").order_by("-id")[:limit])

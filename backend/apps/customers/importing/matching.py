"""What becomes of each row of a file: the record it makes, the one it changes, or why it is refused."""

from abc import ABC, abstractmethod
from dataclasses import dataclass, field
from typing import Any

from django.db import models

from apps.company.queries import area_at, record_fields, settings, tag_keys
from apps.customers.models import Asset, Contact, Customer, Site
from apps.roads.queries import find_addresses
from core.basics import Place, phone_key
from core.customers import FileRow
from core.forms import check_answers

# Surer than this, an address of a file is taken as found.
SURE_LIKENESS = 88.0


@dataclass(kw_only=True)
class Planned:
    """A row and what becomes of it: "new", "change", "same" or "refused".

    `record` is the new one, or the known one as it was when the matching began; `values` is what the row says of it.
    """

    row: FileRow
    becomes: str = "new"
    record: Any = None
    values: dict[str, Any] = field(default_factory=dict)
    notes: list[str] = field(default_factory=list)
    # Names that are no tags yet: they are made when the row is written.
    new_tags: list[str] = field(default_factory=list)

    def refuse(self, why: str) -> None:
        self.becomes = "refused"
        self.row.problems.append(why)


def differing(record: models.Model, values: dict[str, Any]) -> dict[str, Any]:
    """What a row says and the record does not, in the record's own form; an empty cell changes nothing."""
    # The same number in another notation is the same number.
    same = {"phone"} if values.get("phone_key") == getattr(record, "phone_key", None) else set()
    found = {
        name: value
        for name, value in values.items()
        if value not in (None, "", [], {}) and name not in same and getattr(record, name) != value
    }
    if "extra" in found:
        found["extra"] = {**getattr(record, "extra"), **found["extra"]}  # noqa: B009 - not every record has some
        if found["extra"] == getattr(record, "extra"):  # noqa: B009
            del found["extra"]
    return found


def in_words(changes: dict[str, Any]) -> str:
    return ", ".join(sorted(name.removesuffix("_id") for name in changes if name != "phone_key"))


class Matcher(ABC):
    """Holds what is known, so that thousands of rows need a handful of queries."""

    record = ""

    def __init__(self) -> None:
        self.country = settings().phone_country
        rows = Customer.objects.filter(merged_into__isnull=True).order_by("-id")
        self.customers = {customer.name.casefold(): customer for customer in rows}
        self.questions = record_fields(self.record) if self.record else ()
        self.seen: dict[Any, int] = {}

    def match_all(self, planned: Planned) -> Planned:
        """With what was wrong with its cells."""
        if planned.row.problems:
            planned.becomes = "refused"
        else:
            self.match(planned)
        return planned

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
        """The row is about a record that is known."""
        planned.record, planned.values = record, values
        changes = differing(record, values)
        planned.becomes = "change" if changes else "same"
        if changes:
            planned.notes.append(f"changes {in_words(changes)}")

    def customer(self, planned: Planned) -> Customer | None:
        name = planned.row.cells["customer"]
        found = self.customers.get(name.casefold())
        if found is None:
            planned.refuse(f"no customer called {name}: bring in the customers first")
        return found


class _Customers(Matcher):
    record = "customer"

    def __init__(self) -> None:
        super().__init__()
        self.by_phone = {c.phone_key: c for c in self.customers.values() if len(c.phone_key) > 6}
        self.tags = tag_keys()
        # A new tag is spelled as in the file's first row that has it, whichever row is written first.
        self.spelled: dict[str, str] = {}
        self.by_email = {c.email.casefold(): c for c in self.customers.values() if c.email}

    def match(self, planned: Planned) -> None:
        cells = planned.row.cells
        key = phone_key(cells.get("phone") or "", self.country)
        email = (cells.get("email") or "").casefold()
        for twin in (
            cells["name"].casefold(),
            ("phone", key) if len(key) > 6 else None,
            ("e-mail", email) if email else None,
        ):
            if twin is not None and not self.once(planned, twin):
                return
        payer = self.customers.get((cells.get("payer") or "").casefold())
        if cells.get("payer") and payer is None:
            planned.refuse(f"no customer called {cells['payer']} to pay for it")
            return
        values = {
            "name": cells["name"], "phone": cells.get("phone") or "", "phone_key": key,
            "email": cells.get("email") or "", "payer_id": payer.pk if payer else None,
            "needs_po_number": cells.get("needs_po_number", False), "tags": self.tagged(planned),
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

    def tagged(self, planned: Planned) -> list[str]:
        """Keys of the row's tags; the name of one that is made when the row is written."""
        named = [self.spelled.setdefault(name.casefold(), name) for name in planned.row.cells.get("tags") or []]
        planned.new_tags = list(dict.fromkeys(name for name in named if name.casefold() not in self.tags))
        if planned.new_tags:
            planned.notes.append(f"makes the tag {', '.join(planned.new_tags)}")
        return list(dict.fromkeys(self.tags.get(name.casefold(), name) for name in named))


class _Sites(Matcher):
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


class _Contacts(Matcher):
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


class _Assets(Matcher):
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
        same = serial.casefold() or (site.pk, *((cells.get(n) or "").casefold() for n in ("kind", "make", "model")))
        if not self.once(planned, same):
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


MATCHERS: dict[str, type[Matcher]] = {
    "customers": _Customers,
    "sites": _Sites,
    "contacts": _Contacts,
    "assets": _Assets,
}

"""Open work from a file: what each row matches of what is known."""

from collections.abc import Iterator
from dataclasses import dataclass, field, replace
from datetime import datetime

from rapidfuzz import process

from apps.catalogue.models import JobType
from apps.catalogue.queries import job_types_by_name
from apps.company.queries import settings, time_zone
from apps.customers.models import Customer, Site
from apps.people.queries import skill_keys, skill_names
from apps.roads.queries import find_addresses
from core.basics import Place, digits_of, phone_key
from core.open_work.reading import BadFile, OpenWorkRow, read_open_work
from core.roads import Match
from foundation.errors import Rejected

# Surer than this, an address of a file is taken as found; below, the row is refused with what was near.
SURE_LIKENESS = 88.0


@dataclass
class PlannedRow:
    """One row and what will become of it. Shared parts (a new customer) are the same objects."""

    row: OpenWorkRow
    customer: Customer | None = None
    site: Site | None = None
    job_type: JobType | None = None
    notes: list[str] = field(default_factory=list)
    problems: list[str] = field(default_factory=list)

    @property
    def accepted(self) -> bool:
        return not self.problems


def match_rows(text: str, *, now: datetime) -> list[PlannedRow]:
    """Every row of the file with the customer, site and job type that it means, or why it cannot be read.

    Raises
    ------
    Rejected
        When the file as a whole cannot be read.
    """
    try:
        rows = read_open_work(text, time_zone())
    except BadFile as error:
        raise Rejected(str(error), code="bad_file", field="file") from error
    return list(_Matcher(now).plan(rows))


class _Matcher:
    """Holds what is known, so that thousands of rows need a handful of queries."""

    def __init__(self, now: datetime) -> None:
        self.now = int(now.timestamp())
        customers = list(Customer.objects.all())
        self.by_name = {customer.name.casefold(): customer for customer in reversed(customers)}
        self.country = settings().phone_country
        self.by_phone = {c.phone_key: c for c in reversed(customers) if len(c.phone_key) >= 6}
        self.sites: dict[tuple[int, str], Site] = {}
        for site in Site.objects.select_related("customer").order_by("-id"):
            for name in (site.name, site.address):
                self.sites[id(self.by_name.get(site.customer.name.casefold())), name.casefold()] = site
        self.jobs = job_types_by_name()
        names = skill_names()
        self.skills = {code: code for code in names} | skill_keys()
        self.skill_names = sorted(set(names.values()))
        self.addresses: dict[str, list[Match]] = {}
        self.seen: dict[tuple[object, ...], int] = {}

    def plan(self, rows: list[OpenWorkRow]) -> Iterator[PlannedRow]:
        for row in rows:
            planned = PlannedRow(row=row, problems=list(row.problems))
            if planned.accepted:
                self._check(planned)
            yield planned

    def _check(self, planned: PlannedRow) -> None:
        self._check_times(planned)
        self._find_job(planned)
        self._find_skills(planned)
        self._find_duplicate(planned)
        if planned.accepted:
            customer, note = self._customer(planned.row)
            planned.customer = customer
            planned.notes.append(note)
            self._find_site(planned)

    def _check_times(self, planned: PlannedRow) -> None:
        promise = planned.row.promise
        if promise and promise.end <= self.now:
            planned.problems.append("the promise lies in the past")

    def _find_job(self, planned: PlannedRow) -> None:
        name = planned.row.job_type
        if not name:
            return
        planned.job_type = self.jobs.get(name.casefold())
        if planned.job_type is None:
            names = sorted({job.name for job in self.jobs.values()})
            planned.problems.append(f"unknown job type “{name}”{_did_you_mean(name, names)}")

    def _find_skills(self, planned: PlannedRow) -> None:
        needs = planned.row.needs or {}
        unknown = [name for name in needs if name.casefold() not in self.skills]
        for name in unknown:
            planned.problems.append(f"unknown skill “{name}”{_did_you_mean(name, self.skill_names)}")
        if not unknown and needs:
            known = {self.skills[name.casefold()]: level for name, level in needs.items()}
            planned.row = replace(planned.row, needs=known)

    def _find_duplicate(self, planned: PlannedRow) -> None:
        row = planned.row
        key = (
            row.customer.casefold(),
            row.site.casefold(),
            row.address.casefold(),
            row.place,
            row.description,
            row.promise,
            row.due,
        )
        first = self.seen.setdefault(key, row.line)
        if first != row.line:
            planned.problems.append(f"the same as line {first}")

    def _customer(self, row: OpenWorkRow) -> tuple[Customer, str]:
        known = self.by_name.get(row.customer.casefold())
        if known is not None:
            return known, f"{'new' if known.pk is None else 'known'} customer {known.name}"
        key = phone_key(row.phone, self.country)
        if len(digits_of(key)) >= 6 and (by_phone := self.by_phone.get(key)) is not None:
            return by_phone, f"known customer {by_phone.name}, by phone number"
        made = Customer(name=row.customer, phone=row.phone, email=row.email, phone_key=key)
        self.by_name[row.customer.casefold()] = made
        if len(digits_of(key)) >= 6:
            self.by_phone[key] = made
        return made, f"new customer {made.name}"

    def _find_site(self, planned: PlannedRow) -> None:
        row, customer = planned.row, planned.customer
        for name in (row.site, row.address):
            site = self.sites.get((id(customer), name.casefold())) if name else None
            if site is not None:
                planned.site = site
                planned.notes.append(f"{'new' if site.pk is None else 'known'} site {site.name}")
                return
        place, address = row.place, row.address
        if place is None:
            match = self._address(planned)
            if match is None:
                return
            place, address = match.place, match.address.text
            if address.casefold() != row.address.casefold():
                planned.notes.append(f"“{row.address}” read as {address}")
        planned.site = self._new_site(row, customer, place, address)
        planned.notes.append(f"new site {planned.site.name}")

    def _new_site(self, row: OpenWorkRow, customer: Customer | None, place: Place, address: str) -> Site:
        name = row.site or address.split(",")[0] or row.customer
        site = Site(
            customer=customer, name=name, address=address or f"{place.lat:.5f}, {place.lon:.5f}", lon=place.lon,
            lat=place.lat,
        )  # fmt: skip
        for key in (row.site, row.address, address):
            if key:
                self.sites[id(customer), key.casefold()] = site
        return site

    def _address(self, planned: PlannedRow) -> Match | None:
        text = planned.row.address
        if not text:
            planned.problems.append("a new site needs an address or coordinates")
            return None
        if text.casefold() not in self.addresses:
            self.addresses[text.casefold()] = find_addresses(text, limit=2)
        matches = self.addresses[text.casefold()]
        if matches and matches[0].likeness >= SURE_LIKENESS:
            return matches[0]
        near = f"; did you mean {matches[0].address.text}?" if matches else ""
        planned.problems.append(f"address “{text}” is not on the map{near}")
        return None


def _did_you_mean(name: str, known: list[str]) -> str:
    found = process.extractOne(name.casefold(), known, processor=str.casefold, score_cutoff=65)
    return f"; did you mean {found[0]}?" if found else ""

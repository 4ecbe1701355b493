"""One-off jobs as they will be: what is shown while one is put in, and what is made of it."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime

from apps.catalogue import queries as catalogue
from apps.catalogue.filling import Work, filled_in
from apps.catalogue.models import JobType
from apps.customers import queries as customers
from apps.customers.models import Site
from apps.orders.amounts import Kept, hours_of, lines_for
from apps.orders.inputs import NewOrder, OneOff
from apps.orders.models import Origin
from apps.orders.work import title_of
from apps.pricing.documents import Buyer, filled, kept_discount
from apps.pricing.queries import day_of
from core.orders.sequences import day_lengths, day_title, parts_from
from foundation.errors import Rejected


@dataclass(frozen=True, kw_only=True)
class Foreseen:
    """One visit as it will be made: `title` is what it is read by; `seconds` None: nobody knows."""

    title: str
    seconds: int | None
    crew: int


@dataclass(frozen=True, kw_only=True)
class Prospect:
    """What becomes of a one-off job: its visits, its lines, who pays for it, and when it is due.

    `problem` is why it cannot be spread over its days (yet), in words; the visits are then as if for one day.
    """

    visits: tuple[Foreseen, ...]
    lines: Kept
    discounts: Kept
    buyer: Buyer
    work: Work
    problem: str = ""


@dataclass(frozen=True, kw_only=True)
class Read:
    """A one-off job as it is understood."""

    site: Site
    job: JobType | None
    new: NewOrder
    buyer: Buyer


def read_one_off(*, asked: OneOff, now: datetime) -> Prospect:
    """What `make_one_off` would make of it. Nothing changes.

    Raises
    ------
    Rejected, NotFound
    """
    found = read(asked, now)
    rows, off = amounts(asked, found)
    try:
        each, problem = lengths(found.new.work, asked.days), ""
    except Rejected as error:
        each, problem = (), error.sentence
    return Prospect(
        visits=_foreseen(found, each), lines=rows, discounts=off, buyer=found.buyer, work=found.new.work,
        problem=problem,
    )  # fmt: skip


def read(asked: OneOff, now: datetime) -> Read:
    """The job with all filled in that nobody has said. Raises NotFound."""
    site = customers.site(asked.site_id)
    if asked.fields.asset_id is not None:
        customers.asset_at(site, asked.fields.asset_id)
    job = catalogue.job_type(asked.job_type_id) if asked.job_type_id is not None else None
    payer_id = asked.fields.payer_id or (None if asked.fields.payer_address else site.customer.payer_id)
    work = filled_in(
        job, since=now, duration_seconds=asked.duration_seconds, needs=asked.needs, priority=asked.priority,
        crew=asked.crew, due=asked.due,
    )  # fmt: skip
    said = asked.fields.description
    fields = replace(
        asked.fields, payer_id=payer_id, priority=work.priority,
        title=asked.fields.title.strip() or (title_of(job, said) if job or said.strip() else ""),
        payer_address=asked.fields.payer_address or ("" if payer_id else site.customer.payer_address),
    )  # fmt: skip
    new = NewOrder(
        origin=Origin.OFFICE, customer=site.customer, site=site, job_type=job, fields=fields, work=work,
        earliest=asked.earliest,
    )  # fmt: skip
    return Read(site=site, job=job, new=new, buyer=Buyer(day=day_of(now), customer_id=payer_id or site.customer_id))


def amounts(asked: OneOff, found: Read) -> tuple[Kept, Kept]:
    """Its lines and discounts as they are kept."""
    off = [kept_discount(one) for one in asked.discounts]
    if asked.lines is not None:
        return filled(asked.lines, found.buyer), off
    work = found.new.work
    rows = lines_for(
        found.job.lines if found.job else (), found.buyer, seconds=work.duration_seconds, crew=work.crew,
        needs=tuple(work.needs), site=found.site, hours=hours_of(found.new),
    )  # fmt: skip
    return rows, off


def _foreseen(found: Read, days: Sequence[int]) -> tuple[Foreseen, ...]:
    """The first visit spread over its days, behind it those its job type has; in the order the office reads them."""
    work, title = found.new.work, found.new.fields.title
    each: Sequence[int | None] = days or (work.duration_seconds,)
    parts = parts_from(found.job.visits if found.job else ())
    names = [title] if len(each) == 1 else [day_title(title, day)[:120] for day in range(1, len(each) + 1)]
    return (
        Foreseen(title=names[0], seconds=each[0], crew=work.crew),
        *(Foreseen(title=part.title, seconds=part.seconds, crew=part.crew) for part in parts),
        *(Foreseen(title=names[day], seconds=each[day], crew=work.crew) for day in range(1, len(each))),
    )


def lengths(work: Work, days: int) -> tuple[int, ...]:
    """What each day takes; nothing while nobody knows how long it is. Raises Rejected."""
    if days > 1 and not work.duration_seconds:
        raise Rejected("Say first how long it takes.", field="duration_seconds")
    if not work.duration_seconds:
        return ()
    try:
        return day_lengths(work.duration_seconds, days)
    except ValueError as error:
        raise Rejected(f"{error}.".capitalize(), field="days") from error

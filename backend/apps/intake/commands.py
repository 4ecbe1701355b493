"""Taking requests."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime

from django.db import transaction

from apps.catalogue import queries as catalogue
from apps.customers import queries as customers
from apps.intake.models import Request
from apps.people.queries import skill_names
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected


@dataclass(frozen=True, kw_only=True)
class Wanted:
    """What the caller wants. Fields left None come from the job type, where there is one."""

    what_is_wrong: str
    job_type_id: int | None = None
    asset_id: int | None = None
    priority: int | None = None
    duration_seconds: int | None = None
    needs: Mapping[str, int] | None = None
    promise: tuple[datetime, datetime] | None = None
    due: datetime | None = None
    contact_name: str = ""
    contact_phone: str = ""
    source: str = field(default="phone")


@transaction.atomic
def take_request(*, actor: Actor, now: datetime, site_id: int, wanted: Wanted) -> Request:
    """Note a need for a site.

    Raises
    ------
    NotFound
        For a site, asset or job type that is not there.
    Rejected
        When nothing is said to be wrong, or the promise lies in the past or ends before it begins.
    """
    require(actor, Action.TAKE_REQUESTS)
    site = customers.site(site_id)
    if wanted.asset_id is not None:
        customers.asset_at(site, wanted.asset_id)
    check_wanted(wanted, now=now)
    job = catalogue.job_type(wanted.job_type_id) if wanted.job_type_id is not None else None
    start, end = wanted.promise or (None, None)
    request = Request.objects.create(
        customer=site.customer,
        site=site,
        asset_id=wanted.asset_id,
        job_type=job,
        what_is_wrong=wanted.what_is_wrong.strip(),
        source=wanted.source,
        priority=wanted.priority or (job.priority if job else 3),
        duration_seconds=wanted.duration_seconds or (job.duration_seconds if job else None),
        needs=dict(wanted.needs) if wanted.needs is not None else (job.needs if job else {}),
        promise_start=start,
        promise_end=end,
        due=wanted.due,
        contact_name=wanted.contact_name.strip(),
        contact_phone=wanted.contact_phone.strip(),
        taken_at=now,
        taken_by=actor.name,
    )
    audit.record(actor=actor, now=now, action="take", entity="request", entity_id=request.pk, version=1)
    live.announce("request", ids=[request.pk])
    return request


def check_wanted(wanted: Wanted, *, now: datetime) -> None:
    """The rules of a request that need no database but the list of skills."""
    if not wanted.what_is_wrong.strip():
        raise Rejected("Say what is wrong or what is to be done.", field="what_is_wrong")
    if wanted.promise:
        start, end = wanted.promise
        if end <= start:
            raise Rejected("The promise must end after it begins.", field="promise")
        if end <= now:
            raise Rejected("The promise lies in the past.", field="promise")
    check_needs(wanted.needs or {})


def check_needs(needs: Mapping[str, int]) -> None:
    unknown = sorted(set(needs) - skill_names()) if needs else []
    if unknown:
        raise Rejected(f"Unknown skill: {', '.join(unknown)}.", field="needs")
    if any(not 1 <= level <= 5 for level in needs.values()):
        raise Rejected("A skill level is 1 to 5.", field="needs")


def lock_new(request_id: int, *, version: int) -> Request:
    """The request, locked, if it is as it was seen and not ordered yet. For the command that turns it into an order.

    Raises
    ------
    Conflict
        When it was changed or ordered since.
    """
    found = Request.objects.select_for_update().filter(pk=request_id).first()
    if found is None:
        raise NotFound("There is no such request.", code="no_request")
    if found.state != "new":
        raise Conflict(f"{found.number} was already made into a work order.", code="already_ordered")
    if found.version != version:
        raise Conflict(f"{found.number} was changed meanwhile.", current_version=found.version)
    return found


def mark_ordered(*, actor: Actor, now: datetime, request: Request) -> None:
    request.state = "ordered"
    request.version += 1
    request.save(update_fields=["state", "version"])
    audit.record(actor=actor, now=now, action="order", entity="request", entity_id=request.pk, version=request.version)
    live.announce("request", ids=[request.pk])


@transaction.atomic
def close_request(*, actor: Actor, now: datetime, request_id: int, version: int, reason: str) -> Request:
    """End a request that needs no order, with the reason."""
    require(actor, Action.TAKE_REQUESTS)
    if not reason.strip():
        raise Rejected("Say why it is closed without an order.", field="reason")
    request = lock_new(request_id, version=version)
    request.state = "closed"
    request.version += 1
    request.save(update_fields=["state", "version"])
    audit.record(
        actor=actor, now=now, action="close", entity="request", entity_id=request.pk, version=request.version,
        sentence=reason.strip(),
    )  # fmt: skip
    live.announce("request", ids=[request.pk])
    return request

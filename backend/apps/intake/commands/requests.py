"""Taking requests, and what becomes of them without an order."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from django.db import transaction

from apps.catalogue import queries as catalogue
from apps.catalogue.filling import Work, filled_in
from apps.catalogue.models import JobType
from apps.company.numbers import take_number
from apps.company.queries import record_fields, settings
from apps.customers import queries as customers
from apps.customers.models import Customer, Site
from apps.intake.events import RequestAnswered, RequestTaken
from apps.intake.inputs import Wanted
from apps.intake.models import Request
from apps.people.queries import skill_names
from core.forms import file_answers, questions_from
from core.roles import Action
from foundation import audit, events, files, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected


@dataclass(frozen=True, kw_only=True)
class Sender:
    """What somebody who is not on the phone said about themselves."""

    channel: str
    name: str = ""
    phone: str = ""
    email: str = ""
    address: str = ""


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
    request = Request(number=take_number("request", now=now), taken_at=now, taken_by=actor.name)
    _fill(request, site, wanted, now)
    request.save()
    _take_up_pictures(actor, request)
    return _taken(actor, now, request)


def _take_up_pictures(actor: Actor, request: Request) -> None:
    """Pictures that were chosen for the order's own fields stay with the request, whoever makes the order of it."""
    own = questions_from(request.job_type.fields) if request.job_type else ()
    questions = (*own, *record_fields("order"))
    pictures = file_answers(questions, request.details.get("extra") or {})
    files.take_up(actor=actor, ids=pictures, to=("request", request.pk))


def _fill(request: Request, site: Site, wanted: Wanted, now: datetime) -> None:
    job = catalogue.job_type(wanted.job_type_id) if wanted.job_type_id is not None else None
    start, end = wanted.promise or (None, None)
    work = work_of(wanted, job, since=now)
    values: dict[str, Any] = {
        "customer": site.customer, "site": site, "asset_id": wanted.asset_id, "job_type": job,
        "what_is_wrong": wanted.what_is_wrong.strip(), "source": wanted.source,
        "priority": work.priority, "duration_seconds": work.duration_seconds, "needs": work.needs,
        "promise_start": start, "promise_end": end, "due": work.due,
        "contact_name": wanted.contact_name.strip(), "contact_phone": wanted.contact_phone.strip(),
    }  # fmt: skip
    if wanted.details is not None:
        values["details"] = dict(wanted.details)
    for name, value in values.items():
        setattr(request, name, value)


def work_of(wanted: Wanted, job: JobType | None, *, since: datetime, crew: int | None = None) -> Work:
    """The work as it will be: what was said, and what the job type and the company fill in."""
    return filled_in(
        job, since=since, duration_seconds=wanted.duration_seconds, needs=wanted.needs, priority=wanted.priority,
        due=wanted.due, crew=crew,
    )  # fmt: skip


def note_from_outside(
    *, actor: Actor, now: datetime, text: str, sender: Sender, customer: Customer | None = None,
    site: Site | None = None, asset_id: int | None = None, priority: int = 3, job_type: JobType | None = None,
    silent: bool = False,
) -> Request:  # fmt: skip
    """Note a need that came from outside; who and where may still have to be found out.

    `silent`: nobody is told that it has come in.
    """
    require(actor, Action.TAKE_REQUESTS)
    if not text.strip():
        raise Rejected("Say what is wrong or what is to be done.", field="what_is_wrong")
    request = Request.objects.create(
        number=take_number("request", now=now), channel=sender.channel, source=sender.channel, customer=customer,
        site=site, asset_id=asset_id, job_type=job_type, what_is_wrong=text.strip()[:8000], priority=priority,
        from_name=sender.name[:160], from_phone=sender.phone[:40], from_email=sender.email[:254],
        from_address=sender.address[:240], contact_name=sender.name[:120], contact_phone=sender.phone[:40],
        **_known_of(job_type, now), taken_at=now, taken_by=actor.name,
    )  # fmt: skip
    return _taken(actor, now, request, silent=silent)


def _known_of(job: JobType | None, now: datetime) -> dict[str, Any]:
    """What its job type fills in; without one it is filled in by whoever says what it is."""
    if job is None:
        return {}
    work = filled_in(job, since=now)
    return {"duration_seconds": work.duration_seconds, "needs": work.needs, "due": work.due}


def _taken(actor: Actor, now: datetime, request: Request, *, silent: bool = False) -> Request:
    audit.record(
        actor=actor, now=now, action="take", entity="request", entity_id=request.pk, version=1,
        sentence=f"took the request, by {request.channel}",
    )  # fmt: skip
    events.publish(RequestTaken(request=request, at=now, silent=silent))
    live.announce("request", ids=[request.pk])
    return request


@transaction.atomic
def complete_request(
    *, actor: Actor, now: datetime, request_id: int, version: int, site_id: int, wanted: Wanted
) -> Request:
    """Fill in what was not known when it came: who, where, which asset, what kind of work."""
    require(actor, Action.TAKE_REQUESTS)
    request = lock_new(request_id, version=version)
    site = customers.site(site_id)
    if wanted.asset_id is not None:
        customers.asset_at(site, wanted.asset_id)
    check_wanted(wanted, now=now)
    _fill(request, site, wanted, request.taken_at)
    _take_up_pictures(actor, request)
    _save(actor, now, request, "complete", f"settled that it is for {site.name}")
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
    if wanted.source not in {*settings().sources, "phone", "web", "e-mail", "alarm"}:
        raise Rejected(f"“{wanted.source}” is not one of the sources in the settings.", field="source")
    check_needs(wanted.needs or {})


def check_needs(needs: Mapping[str, int]) -> None:
    unknown = sorted(needs.keys() - skill_names().keys()) if needs else []
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
        done = "made into a work order" if found.state == "ordered" else found.state
        raise Conflict(f"{found.number} was already {done}.", code="already_ordered")
    if found.version != version:
        raise Conflict(f"{found.number} was changed meanwhile.", current_version=found.version)
    return found


def mark_ordered(*, actor: Actor, now: datetime, request: Request, order_id: int) -> None:
    """The request has become an order, which takes its files along."""
    request.state = "ordered"
    files.carry_over(("request", request.pk), to=("order", order_id))
    _save(actor, now, request, "order", "made a work order of it")


def _save(actor: Actor, now: datetime, request: Request, action: str, sentence: str) -> None:
    request.version += 1
    request.save()
    audit.record(
        actor=actor, now=now, action=action, entity="request", entity_id=request.pk, version=request.version,
        sentence=sentence,
    )  # fmt: skip
    live.announce("request", ids=[request.pk])


@transaction.atomic
def close_request(*, actor: Actor, now: datetime, request_id: int, version: int, reason: str) -> Request:
    """End a request that needs no order, with the reason."""
    require(actor, Action.TAKE_REQUESTS)
    if not reason.strip():
        raise Rejected("Say why it is closed without an order.", field="reason")
    request = lock_new(request_id, version=version)
    request.state, request.closed_because = "closed", reason.strip()
    _save(actor, now, request, "close", f"closed it: {reason.strip()}")
    return request


@transaction.atomic
def join_requests(*, actor: Actor, now: datetime, request_id: int, version: int, into_id: int) -> Request:
    """Close a request that is about the same as another one; it leads there, and what it says is noted there.

    Raises
    ------
    Rejected
        When they are one and the same, or the other one is closed.
    """
    require(actor, Action.TAKE_REQUESTS)
    if request_id == into_id:
        raise Rejected("Choose another request.", field="into_id")
    request = lock_new(request_id, version=version)
    into = Request.objects.select_for_update().filter(pk=into_id).first()
    if into is None:
        raise NotFound("There is no such request.", code="no_request")
    if into.state == "closed":
        raise Rejected(f"{into.number} is closed: choose one that is open.", field="into_id")
    request.state, request.joined_into = "closed", into
    request.closed_because = f"the same as {into.number}"
    _save(actor, now, request, "join", f"joined it into {into.number}")
    audit.note(
        actor=actor, now=now, entity="request", entity_id=into.pk,
        text=f"{request.number} is about the same: {request.what_is_wrong}",
    )  # fmt: skip
    if request.priority < into.priority and into.state == "new":
        into.priority = request.priority
        _save(actor, now, into, "raise", f"raised its priority to {into.priority}")
    live.announce("request", ids=[into.pk])
    return request


@transaction.atomic
def answer_request(*, actor: Actor, now: datetime, request_id: int, text: str) -> Request:
    """Write back to who sent it; the answer is kept with the request."""
    require(actor, Action.TAKE_REQUESTS)
    request = Request.objects.select_for_update().filter(pk=request_id).first()
    if request is None:
        raise NotFound("There is no such request.", code="no_request")
    if not text.strip():
        raise Rejected("Write an answer first.", field="text")
    if not (request.from_email or request.from_phone or request.contact_phone):
        raise Rejected("Nobody said where an answer would reach them.", field="text")
    audit.record(
        actor=actor, now=now, action="answer", entity="request", entity_id=request.pk, version=request.version,
        sentence="answered", note=text.strip(),
    )  # fmt: skip
    events.publish(RequestAnswered(request=request, text=text.strip(), at=now))
    live.announce("request", ids=[request.pk])
    return request

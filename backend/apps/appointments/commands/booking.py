"""Offering a time, and taking one: the promise is made and held against everybody else at the same moment."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from django.db import transaction

from apps.appointments.commands.proving import Proof, while_it_holds
from apps.catalogue import queries as catalogue
from apps.intake import commands as intake
from apps.intake.inputs import Wanted
from apps.intake.models import Request
from apps.orders import commands as orders
from apps.orders.drafts import Draft, draft_of_visit, draft_of_work
from apps.orders.inputs import Conditions, Placement
from apps.orders.models import Visit, WorkOrder
from apps.scheduling.undoing import keep, placement_of
from core.basics import Interval
from core.orders import Step, VisitState
from core.roles import Action, Role
from foundation.actors import Actor, require, screen_of
from foundation.errors import NotFound, Rejected
from foundation.moments import to_datetime, to_moment
from foundation.outside import SystemActor
from foundation.undo import one_intention


@dataclass(frozen=True, kw_only=True)
class Booked:
    """What a call came to."""

    request: Request
    order: WorkOrder
    visit: Visit


def draft_of_wanted(
    *, site_id: int, wanted: Wanted, now: datetime, crew: int | None = None, request_id: int | None = None
) -> Draft:
    """What the planner has to know of a visit whose order does not exist yet.

    Parameters
    ----------
    request_id
        The request that came in before: its deadlines count from when it came.
    """
    job = catalogue.job_type(wanted.job_type_id) if wanted.job_type_id is not None else None
    came = Request.objects.filter(pk=request_id).values_list("taken_at", flat=True).first() if request_id else None
    work = intake.work_of(wanted, job, since=came or now, crew=crew)
    return draft_of_work(work, site_id=site_id, job_type_id=wanted.job_type_id)


def book(
    *, actor: Actor, now: datetime, site_id: int, wanted: Wanted, details: Mapping[str, Any],
    window: Interval | None, assign: bool = False, standby: Conditions | None = None, tell: bool = True,
    request_id: int | None = None, version: int | None = None,
) -> Booked:  # fmt: skip
    """Everything a call comes to, or nothing of it: request, order, and the promise that was taken.

    Parameters
    ----------
    window
        The promise; None when no time was agreed yet.
    assign
        Whether the technician who makes the promise possible is given the visit at once.
    request_id, version
        A request that came in before and is completed now.

    Raises
    ------
    Conflict
        When the window has gone to somebody else meanwhile; nothing was made, and nothing typed is lost.
    """
    require(actor, Action.OFFER_TIMES)

    def write(proof: Proof | None) -> Booked:
        if request_id is None:
            request = intake.take_request(actor=actor, now=now, site_id=site_id, wanted=wanted)
        else:
            request = intake.complete_request(
                actor=actor, now=now, request_id=request_id, version=version or 0, site_id=site_id, wanted=wanted
            )
        order = orders.make_order(actor=actor, now=now, request_id=request.pk, version=request.version, details=details)
        visit = order.visits.select_related("order__site__area").order_by("part", "id")[0]
        if proof is not None and window is not None:
            visit = _promise(actor, now, visit, window, proof, assign=assign, tell=tell)
        if standby is not None:
            visit = orders.put_on_standby(
                actor=actor, now=now, visit_id=visit.pk, version=visit.version, conditions=standby, tell=tell
            )
        order.refresh_from_db()
        request.refresh_from_db()
        return Booked(request=request, order=order, visit=visit)

    if window is None:
        with transaction.atomic():
            return write(None)
    _check_ahead(window, now)
    draft = draft_of_wanted(site_id=site_id, wanted=wanted, now=now, request_id=request_id)
    return while_it_holds(draft, window, write)


def take(
    *, actor: Actor, now: datetime, visit_id: int, version: int, window: Interval, assign: bool, tell: bool = True
) -> Visit:
    """Promise a window for a visit that exists.

    Raises
    ------
    Conflict
        When the window can no longer be kept.
    """
    require(actor, Action.OFFER_TIMES)
    visit = Visit.objects.select_related("order__site__area").filter(pk=visit_id).first()
    if visit is None:
        raise NotFound("There is no such visit.", code="no_visit")
    if VisitState(visit.state) is not VisitState.OPEN:
        raise Rejected("It is placed already: move it on the board.", code="wrong_state")
    _check_ahead(window, now)

    def write(proof: Proof) -> Visit:
        locked = orders.lock_visit(actor=actor, visit_id=visit_id, version=version)
        return _promise(actor, now, locked, window, proof, assign=assign, tell=tell)

    return while_it_holds(draft_of_visit(visit), window, write)


def _check_ahead(window: Interval, now: datetime) -> None:
    if window.end <= int(now.timestamp()):
        raise Rejected("The promise lies in the past.", field="promise")


@one_intention()
def _promise(
    actor: Actor, now: datetime, visit: Visit, window: Interval, proof: Proof, *, assign: bool, tell: bool
) -> Visit:
    """Promise what was proved, and carry out what the proof needs."""
    before = {"fields": {"promise_start": to_moment(visit.promise_start), "promise_end": to_moment(visit.promise_end)}}
    visit = orders.promise(actor=actor, now=now, visit_id=visit.pk, version=visit.version, window=window, tell=tell)
    keep(actor, now, visit, f"{visit.order.number} promised", before)
    if not assign and not proof["moves"]:
        return visit
    deputy = SystemActor(id=actor.id, name=actor.name, role=Role.DISPATCHER, screen=screen_of(actor))
    for move in proof["moves"]:
        _move(deputy, now, move)
    technicians = [row["id"] for row in proof["technicians"]]
    return _place(deputy, now, visit, technicians, proof["starts_at"], "placed it with the promise")


def _move(deputy: SystemActor, now: datetime, move: Mapping[str, Any]) -> None:
    """Work that makes room, as the offer said."""
    visit = orders.lock_visit(actor=deputy, visit_id=move["visit_id"], version=move["version"])
    if move["after"]:
        technicians = [row["technician_id"] for row in move["after"]]
        _place(deputy, now, visit, technicians, move["after"][0]["start"], "moved it to make room for urgent work")
        return
    before = placement_of(visit)
    visit = orders.take_step(
        actor=deputy, now=now, visit_id=visit.pk, version=visit.version, step=Step.UNPLACE,
        sentence="put it back in the backlog to make room for urgent work",
    )  # fmt: skip
    keep(deputy, now, visit, f"{visit.order.number} made room", before)


def _place(
    deputy: SystemActor, now: datetime, visit: Visit, technicians: list[int], start: int, sentence: str
) -> Visit:
    before = placement_of(visit)
    visit = orders.take_step(
        actor=deputy, now=now, visit_id=visit.pk, version=visit.version, step=Step.PLACE, sentence=sentence,
        placement=Placement(technician_id=technicians[0], start=to_datetime(start), mates=technicians[1:]),
    )  # fmt: skip
    keep(deputy, now, visit, f"{visit.order.number} placed with its promise", before)
    return visit

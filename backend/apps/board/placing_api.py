"""HTTP: placing, sending and undoing, one visit or many."""

from datetime import date, timedelta
from typing import Annotated, Any

from django.http import HttpRequest
from ninja import Query, Router

from apps.appointments import urgent
from apps.appointments.urgent_schemas import DecisionOut, decision_out
from apps.board import commands, day_schemas, leaving
from apps.board import placing_schemas as shapes
from apps.orders import queries as orders
from apps.orders.lines import VisitLine
from apps.orders.schemas import VersionIn, VisitFieldsIn, VisitOut
from apps.scheduling import schemas as verdicts
from apps.scheduling.horizon import checked
from apps.scheduling.undoing import SUBJECT as VISIT
from core.roles import Action
from foundation import clock
from foundation import undo as undoing
from foundation.access import Needs, actor_of
from foundation.models import UndoEntry
from foundation.schemas import Key

router = Router()


@router.post("/visits/{visit_id}/place", response=shapes.PlacedOut, auth=Needs(Action.PLAN))
def place(request: HttpRequest, visit_id: Key, body: shapes.PlaceIn) -> dict[str, Any]:
    """Put a visit on a technician's day, or move it there."""
    visit, verdict = commands.place(
        actor=actor_of(request),
        now=clock.now(),
        visit_id=visit_id,
        version=body.version,
        technician_id=body.technician_id,
        start=body.start,
        mates=body.mates,
        because=body.because,
    )
    return {"visit": VisitOut.of(visit), "verdict": verdicts.verdict_out(verdict)}


@router.post("/visits/{visit_id}/place-first", response=shapes.PlacedOut, auth=Needs(Action.PLAN))
def place_first(request: HttpRequest, visit_id: Key, body: shapes.FirstIn) -> dict[str, Any]:
    """Put a visit on somebody's day at the first time at which it fits without harm."""
    visit, verdict = commands.place_first(
        actor=actor_of(request), now=clock.now(), visit_id=visit_id, version=body.version,
        technician_id=body.technician_id, day=checked(body.day),
    )  # fmt: skip
    return {"visit": VisitOut.of(visit), "verdict": verdicts.verdict_out(verdict)}


@router.post("/visits/{visit_id}/unplace", response=VisitOut, auth=Needs(Action.PLAN))
def unplace(request: HttpRequest, visit_id: Key, body: VersionIn) -> VisitOut:
    """Put a visit back in the backlog."""
    return VisitOut.of(
        commands.unplace(actor=actor_of(request), now=clock.now(), visit_id=visit_id, version=body.version)
    )


@router.put("/visits/{visit_id}/fields", response=VisitOut, auth=Needs(Action.CHANGE_VISITS))
def edit(request: HttpRequest, visit_id: Key, body: VisitFieldsIn) -> VisitOut:
    """Edit a visit's details."""
    visit = commands.edit(
        actor=actor_of(request), now=clock.now(), visit_id=visit_id, version=body.version, fields=body.fields()
    )
    return VisitOut.of(visit)


@router.post("/visits/{visit_id}/length", response=VisitOut, auth=Needs(Action.CHANGE_VISITS))
def stretch(request: HttpRequest, visit_id: Key, body: shapes.StretchIn) -> VisitOut:
    """Give a visit another length."""
    visit = commands.stretch(
        actor=actor_of(request), now=clock.now(), visit_id=visit_id, version=body.version, seconds=body.seconds
    )
    return VisitOut.of(visit)


@router.get("/board/planned-after/{technician_id}", response=list[shapes.PlannedOut], auth=Needs(Action.PLAN))
def planned_after(request: HttpRequest, technician_id: Key, day: date) -> list[VisitLine]:
    """What stands with somebody after their last day and has not begun: to be handed over."""
    return leaving.planned_after(technician_id, day)


@router.post("/board/bulk", response=shapes.BulkOut, auth=Needs(Action.PLAN))
def bulk(request: HttpRequest, body: shapes.BulkIn) -> dict[str, Any]:
    """Do the same to many visits, or say what would become of them. Undone in one step."""
    outcomes = commands.bulk(
        actor=actor_of(request), now=clock.now(), visits=[(row.id, row.version) for row in body.visits],
        wanted=body.wanted(), preview=body.preview,
    )  # fmt: skip
    return shapes.bulk_out(outcomes)


@router.post("/visits/{visit_id}/send", response=VisitOut, auth=Needs(Action.PLAN))
def send(request: HttpRequest, visit_id: Key, body: shapes.SendIn) -> VisitOut:
    """Tell the technician and the customer; `how` settles a promise for another day first."""
    sent = commands.send(
        actor=actor_of(request), now=clock.now(), visit_id=visit_id, version=body.version, how=body.how
    )
    return VisitOut.of(sent)


@router.post("/board/send-day", response=shapes.SentOut, auth=Needs(Action.PLAN))
def send_day(request: HttpRequest, body: shapes.SendDayIn) -> commands.Sent:
    """Send every placed visit of some days; those on another day than promised only where `settled` says how."""
    return commands.send_day(
        actor=actor_of(request), now=clock.now(), day=checked(body.day), days=body.days,
        technician_id=body.technician_id, settled={row.visit_id: row.how for row in body.settled},
    )  # fmt: skip


@router.post("/visits/{visit_id}/step", response=VisitOut, auth=Needs(Action.PLAN))
def step(request: HttpRequest, visit_id: Key, body: shapes.StepIn) -> VisitOut:
    """Stamp a step for a technician, or cancel a visit."""
    visit = commands.step_for(
        actor=actor_of(request),
        now=clock.now(),
        visit_id=visit_id,
        version=body.version,
        step=body.step,
        note=body.note,
        tell=body.tell,
    )
    return VisitOut.of(visit)


@router.post("/visits/{visit_id}/forward", response=shapes.PlacedOut, auth=Needs(Action.PLAN))
def forward(request: HttpRequest, visit_id: Key, body: shapes.ForwardIn) -> dict[str, Any]:
    """Bring a standby visit forward: placed, promised for then, off the list; undone in one step."""
    visit, verdict = commands.bring_forward(
        actor=actor_of(request), now=clock.now(), visit_id=visit_id, version=body.version,
        technician_id=body.technician_id, start=body.start,
    )  # fmt: skip
    return {"visit": VisitOut.of(visit), "verdict": verdicts.verdict_out(verdict)}


@router.get("/visits/{visit_id}/give", response=DecisionOut, auth=Needs(Action.PLAN))
def decision(
    request: HttpRequest, visit_id: Key, technician_id: Annotated[int, Query(ge=1, le=2**62)]
) -> dict[str, Any]:
    """What giving urgent work to somebody comes to: who gives way, and where each of them could go instead."""
    found = urgent.decision(visit=orders.visit(visit_id), technician_id=technician_id, now=clock.now())
    return decision_out(found)


@router.post("/visits/{visit_id}/give", response=shapes.PlacedOut, auth=Needs(Action.PLAN))
def give(request: HttpRequest, visit_id: Key, body: shapes.GiveIn) -> dict[str, Any]:
    """Give urgent work to somebody at once: placed, told to the phone, and what gives way goes where it was decided."""
    visit, verdict = commands.give(
        actor=actor_of(request), now=clock.now(), visit_id=visit_id, version=body.version,
        technician_id=body.technician_id, start=body.start, because=body.because,
        moves=[move.known() for move in body.moves],
    )  # fmt: skip
    return {"visit": VisitOut.of(visit), "verdict": verdicts.verdict_out(verdict)}


@router.post("/board/lock-days", response=day_schemas.LockedOut, auth=Needs(Action.PLAN))
def lock_days(request: HttpRequest, body: day_schemas.LockDaysIn) -> dict[str, int]:
    """Lock or unlock what is placed on some days, of everybody or of one technician."""
    first = checked(body.day)
    changed = commands.lock_days(
        actor=actor_of(request), now=clock.now(), first=first, last=first + timedelta(days=body.days - 1),
        technician_id=body.technician_id, pinned=body.pinned,
    )  # fmt: skip
    return {"changed": changed}


@router.post("/orders/{order_id}/lock", response=day_schemas.LockedOut, auth=Needs(Action.PLAN))
def lock_order(request: HttpRequest, order_id: Key, body: day_schemas.LockIn) -> dict[str, int]:
    """Lock or unlock all visits of an order."""
    changed = commands.lock_order(actor=actor_of(request), now=clock.now(), order_id=order_id, pinned=body.pinned)
    return {"changed": changed}


@router.get("/board/undo", response=shapes.ChangesOut, auth=Needs(Action.PLAN))
def undoable(request: HttpRequest) -> dict[str, Any]:
    """One's own last changes that can be undone, and those that can be done again."""
    actor = actor_of(request)
    return {
        "undo": [_change(row) for row in undoing.undoable(actor)],
        "redo": [_change(row) for row in undoing.redoable(actor)],
    }


def _change(row: UndoEntry) -> dict[str, Any]:
    return {
        "id": row.pk, "at": int(row.at.timestamp()), "sentence": row.sentence,
        "visit_id": row.key if row.subject == VISIT else None, "intention": row.intention,
    }  # fmt: skip


def _undone(done: undoing.Undone) -> dict[str, Any]:
    keys = done.keys.get(VISIT, ())
    return {"visit": VisitOut.of(orders.visit(keys[0])) if keys else None, "sentence": done.sentence}


@router.post("/board/undo", response=shapes.UndoneOut, auth=Needs(Action.PLAN))
def undo(request: HttpRequest, body: shapes.UndoIn) -> dict[str, Any]:
    """Take back one's own last change, or a given one."""
    return _undone(undoing.undo(actor=actor_of(request), now=clock.now(), entry_id=body.change_id))


@router.post("/board/redo", response=shapes.UndoneOut, auth=Needs(Action.PLAN))
def redo(request: HttpRequest) -> dict[str, Any]:
    """Do again what was undone last."""
    return _undone(undoing.redo(actor=actor_of(request), now=clock.now()))

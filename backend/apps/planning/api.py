"""HTTP: the board."""

from datetime import date
from typing import Annotated, Any

import orjson
from django.http import HttpRequest, HttpResponse
from ninja import Query, Router

from apps.company.queries import time_zone
from apps.orders import queries as orders
from apps.orders.backlog import backlog as backlog_of
from apps.orders.schemas import VisitFieldsIn, VisitOut, visit_fields
from apps.people.queries import certificates
from apps.people.working_days import working_days
from apps.planning import asking, commands, judging, queries, run_schemas, schemas
from apps.planning import playbooks as playbooks_of
from apps.planning.horizon import Numbers, checked, named
from core.calendars import local_day
from core.roles import Action
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.actors import screen_of
from foundation.schemas import Key

router = Router()


@router.get("/lanes", response=list[schemas.LaneHeadOut], auth=Needs(Action.SEE_BOARD))
def lanes(request: HttpRequest) -> HttpResponse:
    """Everybody who has a line on the board, by depot and name."""
    found = working_days(_today(), time_zone())
    papers = certificates([technician.id for technician in found])
    heads = [schemas.lane_head(technician, papers.get(technician.id, [])) for technician in found]
    return HttpResponse(orjson.dumps(heads), content_type="application/json")


@router.get("/board", response=schemas.BoardOut, auth=Needs(Action.SEE_BOARD))
def board(
    request: HttpRequest, day: Annotated[date | None, Query()] = None,
    days: Annotated[int, Query(ge=1, le=queries.MOST_BOARD_DAYS)] = 1, technicians: Numbers = "",
) -> HttpResponse:  # fmt: skip
    """Days of everybody, or of some technicians: lanes with their timetables, visits with their lamps.

    Without `day`: from today on. `technicians` are ids, separated by commas.
    """
    first = checked(day) if day else _today()
    found = queries.board(first=first, days=days, now=clock.now(), technician_ids=named(technicians))
    # Written straight: checking thousands of values of our own again would triple the time.
    return HttpResponse(orjson.dumps(schemas.board_out(found)), content_type="application/json")


@router.post("/backlog", response=schemas.BacklogOut, auth=Needs(Action.SEE_BOARD))
def backlog(request: HttpRequest, body: schemas.BacklogIn) -> HttpResponse:
    """Work without a place, the most pressing first. By POST, because filters can be many; nothing changes."""
    found = backlog_of(body.filters(), sort=body.sort)
    now = int(clock.now().timestamp())
    rows = [
        visit_fields(visit) | {"reasons": queries.backlog_reasons(visit, now, declined=found.declined)}
        for visit in found.lines
    ]
    return HttpResponse(orjson.dumps({"total": found.total, "visits": rows}), content_type="application/json")


@router.post("/judge", response=schemas.VerdictOut, auth=Needs(Action.SEE_BOARD))
def judge(request: HttpRequest, body: schemas.JudgeIn) -> dict[str, Any]:
    """What placing a visit there would mean. Changes nothing."""
    line = orders.line(body.visit_id)
    verdict = judging.judge_placement(
        line=line, technician_id=body.technician_id, start=body.start, now=clock.now(), mates=body.mates
    )
    return schemas.verdict_out(verdict)


@router.get("/visits/{visit_id}/fits", response=list[schemas.FitOut], auth=Needs(Action.SEE_BOARD))
def fits(request: HttpRequest, visit_id: Key, day: date) -> list[dict[str, Any]]:
    """Per technician, what speaks against this visit whatever the hour."""
    found = judging.fits(visit=orders.visit(visit_id), day=checked(day))
    return [{"technician_id": key, "reasons": reasons} for key, reasons in found.items()]


@router.post("/visits/{visit_id}/place", response=schemas.PlacedOut, auth=Needs(Action.PLAN))
def place(request: HttpRequest, visit_id: Key, body: schemas.PlaceIn) -> dict[str, Any]:
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
    return {"visit": VisitOut.of(visit), "verdict": schemas.verdict_out(verdict)}


@router.post("/visits/{visit_id}/unplace", response=VisitOut, auth=Needs(Action.PLAN))
def unplace(request: HttpRequest, visit_id: Key, body: schemas.VersionIn) -> VisitOut:
    """Put a visit back in the backlog."""
    return VisitOut.of(
        commands.unplace(actor=actor_of(request), now=clock.now(), visit_id=visit_id, version=body.version)
    )


@router.put("/visits/{visit_id}", response=VisitOut, auth=Needs(Action.CHANGE_VISITS))
def edit(request: HttpRequest, visit_id: Key, body: VisitFieldsIn) -> VisitOut:
    """Edit a visit's details."""
    visit = commands.edit(
        actor=actor_of(request), now=clock.now(), visit_id=visit_id, version=body.version, fields=body.fields()
    )
    return VisitOut.of(visit)


@router.post("/visits/{visit_id}/send", response=VisitOut, auth=Needs(Action.PLAN))
def send(request: HttpRequest, visit_id: Key, body: schemas.SendIn) -> VisitOut:
    """Tell the technician and the customer; `how` settles a promise for another day first."""
    sent = commands.send(
        actor=actor_of(request), now=clock.now(), visit_id=visit_id, version=body.version, how=body.how
    )
    return VisitOut.of(sent)


@router.post("/send-day", response=schemas.SentOut, auth=Needs(Action.PLAN))
def send_day(request: HttpRequest, body: schemas.SendDayIn) -> commands.Sent:
    """Send every placed visit of some days; those on another day than promised only where `settled` says how."""
    return commands.send_day(
        actor=actor_of(request), now=clock.now(), day=checked(body.day), days=body.days,
        technician_id=body.technician_id, settled={row.visit_id: row.how for row in body.settled},
    )  # fmt: skip


@router.post("/visits/{visit_id}/step", response=VisitOut, auth=Needs(Action.PLAN))
def step(request: HttpRequest, visit_id: Key, body: schemas.StepIn) -> VisitOut:
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


@router.get("/undo", response=schemas.ChangesOut, auth=Needs(Action.PLAN))
def undoable(request: HttpRequest) -> dict[str, Any]:
    """One's own last changes that can be undone, and those that can be done again."""
    actor = actor_of(request)
    screen = screen_of(actor)
    return {
        "undo": [_change(row) for row in queries.undoable(actor_id=actor.id, screen=screen)],
        "redo": [_change(row) for row in queries.redoable(actor_id=actor.id, screen=screen)],
    }


def _change(row: Any) -> dict[str, Any]:
    return {
        "id": row.pk, "at": int(row.at.timestamp()), "sentence": row.sentence, "visit_id": row.visit_id,
        "step": row.step,
    }  # fmt: skip


@router.post("/undo", response=schemas.UndoneOut, auth=Needs(Action.PLAN))
def undo(request: HttpRequest, body: schemas.UndoIn) -> dict[str, Any]:
    """Take back one's own last change, or a given one."""
    visit, sentence = commands.undo(actor=actor_of(request), now=clock.now(), change_id=body.change_id)
    return {"visit": VisitOut.of(visit) if visit else None, "sentence": sentence}


@router.post("/redo", response=schemas.UndoneOut, auth=Needs(Action.PLAN))
def redo(request: HttpRequest) -> dict[str, Any]:
    """Do again what was undone last."""
    visit, sentence = commands.redo(actor=actor_of(request), now=clock.now())
    return {"visit": VisitOut.of(visit) if visit else None, "sentence": sentence}


def _today() -> date:
    return local_day(int(clock.now().timestamp()), time_zone())


@router.get("/visits/{visit_id}/openings", response=run_schemas.OpeningsOut, auth=Needs(Action.SEE_BOARD))
def openings(
    request: HttpRequest, visit_id: Key, day: date, days: Annotated[int, Query(ge=1, le=14)] = 7,
    playbook_id: Annotated[int | None, Query(ge=1, lt=2**62)] = None,
) -> dict[str, Any]:  # fmt: skip
    """Where a visit could go, the best first, with reasons; and why the others cannot take it."""
    orders.visit(visit_id)
    return asking.openings(visit_id=visit_id, first=checked(day), days=days, playbook_id=playbook_id)


@router.get("/runs", response=list[run_schemas.RunOut], auth=Needs(Action.PLAN))
def runs(request: HttpRequest) -> list[dict[str, Any]]:
    """The last planning runs, newest first, without their proposals."""
    return [run_schemas.run_out(row) for row in queries.latest_runs()]


@router.get("/runs/{run_id}", response=run_schemas.RunDetailOut, auth=Needs(Action.PLAN))
def run(request: HttpRequest, run_id: Key) -> dict[str, Any]:
    """A planning run with its proposal."""
    return run_schemas.run_detail_out(queries.run(run_id))


@router.post("/runs", response=run_schemas.RunOut, auth=Needs(Action.PLAN))
def start_run(request: HttpRequest, body: run_schemas.RunIn) -> dict[str, Any]:
    """Ask for a proposal; nothing changes until it is accepted."""
    row = commands.start_run(
        actor=actor_of(request), now=clock.now(), kind=body.kind, first_day=checked(body.day), days=body.days,
        technician_id=body.technician_id, visit_ids=body.visit_ids, area=body.area,
        playbook_id=body.playbook_id, seconds=body.seconds, seed=body.seed,
    )  # fmt: skip
    return run_schemas.run_out(row)


@router.post("/runs/{run_id}/stop", response=run_schemas.RunOut, auth=Needs(Action.PLAN))
def stop_run(request: HttpRequest, run_id: Key) -> dict[str, Any]:
    """Stop a run; it keeps the best it has."""
    return run_schemas.run_out(commands.stop_run(actor=actor_of(request), now=clock.now(), run_id=run_id))


@router.post("/runs/{run_id}/accept", response=run_schemas.ProposalAcceptedOut, auth=Needs(Action.PLAN))
def accept(request: HttpRequest, run_id: Key, body: run_schemas.ProposalAcceptIn) -> dict[str, Any]:
    """Take over changes of a proposal; undone in one step."""
    changed, added = commands.accept(actor=actor_of(request), now=clock.now(), run_id=run_id, visit_ids=body.visit_ids)
    return {"changed": changed, "added": added}


@router.get("/playbooks", response=run_schemas.PlaybooksOut, auth=Needs(Action.SEE_BOARD))
def playbooks(request: HttpRequest) -> dict[str, Any]:
    """All playbooks, the default first, and what can be set in one."""
    return run_schemas.playbooks_out(playbooks_of.ensure_playbooks())


@router.post("/playbooks", response=run_schemas.PlaybookOut, auth=Needs(Action.EDIT_PLAYBOOKS))
def make_playbook(request: HttpRequest, body: run_schemas.PlaybookIn) -> dict[str, Any]:
    """A new playbook."""
    row = commands.make_playbook(
        actor=actor_of(request), now=clock.now(), name=body.name, limits=body.stored_limits(), aims=body.stored_aims()
    )
    return run_schemas.playbook_out(row)


@router.put("/playbooks/{playbook_id}", response=run_schemas.PlaybookOut, auth=Needs(Action.EDIT_PLAYBOOKS))
def save_playbook(request: HttpRequest, playbook_id: Key, body: run_schemas.PlaybookChangeIn) -> dict[str, Any]:
    """Change a playbook."""
    row = commands.save_playbook(
        actor=actor_of(request), now=clock.now(), playbook_id=playbook_id, version=body.version, name=body.name,
        limits=body.stored_limits(), aims=body.stored_aims(),
    )  # fmt: skip
    return run_schemas.playbook_out(row)


@router.post("/playbooks/{playbook_id}/default", response=run_schemas.PlaybookOut, auth=Needs(Action.EDIT_PLAYBOOKS))
def make_default(request: HttpRequest, playbook_id: Key, body: schemas.VersionIn) -> dict[str, Any]:
    """Use this playbook when none is named."""
    row = commands.make_default(actor=actor_of(request), now=clock.now(), playbook_id=playbook_id, version=body.version)
    return run_schemas.playbook_out(row)

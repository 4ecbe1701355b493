"""HTTP: what a placement would mean, openings, planning runs, playbooks."""

from datetime import date
from typing import Annotated, Any

from django.http import HttpRequest
from ninja import Query, Router

from apps.orders import queries as orders
from apps.orders.schemas import VersionIn
from apps.scheduling import asking, commands, judging, queries, reaching, run_schemas, schemas
from apps.scheduling import playbooks as playbooks_of
from apps.scheduling.horizon import checked
from core.roles import Action
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.pages import Cursor
from foundation.schemas import Key

router = Router()


@router.post("/scheduling/judge", response=schemas.VerdictOut, auth=Needs(Action.SEE_BOARD))
def judge(request: HttpRequest, body: schemas.JudgeIn) -> dict[str, Any]:
    """What placing a visit there would mean. Changes nothing."""
    line = orders.line(body.visit_id)
    verdict = judging.judge_placement(
        line=line, technician_id=body.technician_id, start=body.start, now=clock.now(), mates=body.mates
    )
    reached = reaching.as_reached(
        verdict, actor=actor_of(request), line=line, technician_id=body.technician_id, mates=body.mates
    )
    return schemas.verdict_out(reached)


@router.get("/visits/{visit_id}/fits", response=list[schemas.FitOut], auth=Needs(Action.SEE_BOARD))
def fits(request: HttpRequest, visit_id: Key, day: date) -> list[dict[str, Any]]:
    """Per technician, what speaks against this visit whatever the hour."""
    asked = orders.visit(visit_id)
    found = judging.fits(visit=asked, day=checked(day))
    outside = reaching.out_of_reach(actor_of(request), asked, found)
    return [
        {"technician_id": key, "reasons": [*([outside[key]] if key in outside else []), *reasons]}
        for key, reasons in found.items()
    ]


@router.get("/visits/{visit_id}/openings", response=run_schemas.OpeningsOut, auth=Needs(Action.SEE_BOARD))
def openings(
    request: HttpRequest, visit_id: Key, day: date, days: Annotated[int, Query(ge=1, le=14)] = 7,
    playbook_id: Annotated[int | None, Query(ge=1, lt=2**62)] = None,
) -> dict[str, Any]:  # fmt: skip
    """Where a visit could go, the best first, with reasons; and why the others cannot take it."""
    asked = orders.visit(visit_id)
    found = asking.openings(visit_id=visit_id, first=checked(day), days=days, playbook_id=playbook_id)
    return reaching.openings_reached(actor_of(request), asked, found)


@router.get("/runs", response=run_schemas.RunsOut, auth=Needs(Action.PLAN))
def runs(request: HttpRequest, cursor: Cursor = "") -> dict[str, Any]:
    """Planning runs, the newest first, without their proposals."""
    page = queries.runs(cursor=cursor)
    return {"rows": [run_schemas.run_out(row) for row in page.rows], "next": page.next}


@router.get("/runs/{run_id}", response=run_schemas.RunDetailOut, auth=Needs(Action.PLAN))
def run(request: HttpRequest, run_id: Key) -> dict[str, Any]:
    """A planning run with its proposal."""
    return run_schemas.run_detail_out(queries.run(run_id))


@router.post("/runs", response=run_schemas.RunOut, auth=Needs(Action.PLAN))
def start_run(request: HttpRequest, body: run_schemas.RunIn) -> dict[str, Any]:
    """Ask for a proposal; nothing changes until it is accepted."""
    row = commands.start_run(
        actor=actor_of(request), now=clock.now(), kind=body.kind, first_day=checked(body.day), days=body.days,
        technician_id=body.technician_id, visit_ids=body.visit_ids, area_id=body.area_id,
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
def make_default(request: HttpRequest, playbook_id: Key, body: VersionIn) -> dict[str, Any]:
    """Use this playbook when none is named."""
    row = commands.make_default(actor=actor_of(request), now=clock.now(), playbook_id=playbook_id, version=body.version)
    return run_schemas.playbook_out(row)

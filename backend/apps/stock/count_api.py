"""HTTP: counts of places."""

from django.http import HttpRequest
from ninja import Router, Status

from apps.stock import commands, queries
from apps.stock import schemas as shapes
from apps.stock.models import CountSheet
from core.roles import Action
from core.stock import CountScope
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.schemas import Key

router = Router()


def _out(request: HttpRequest, row: CountSheet) -> shapes.CountSheetOut:
    lines = queries.count_lines(row)
    blind = row.state == "open"
    counted = [(line, commands.counted(line)) for line in lines]
    return shapes.CountSheetOut(
        id=row.pk, version=row.version, place_id=row.place_id, place=row.place.name, scope=CountScope(row.scope),
        shelf=row.shelf, state=row.state, begun_at=int(row.begun_at.timestamp()), begun_by=row.begun_by,
        counted_by=row.counted_by, counted_by_me=row.counted_by_id == actor_of(request).id, booked_by=row.booked_by,
        lines=[
            shapes.CountLineOut.of(
                line, blind=blind, difference=found.difference, worth=None if found.cost is None else found.worth
            )
            for line, found in counted
        ],
        counted=sum(line.found is not None for line in lines), second=not blind and commands.second_needed(lines),
    )  # fmt: skip


@router.get("/stock/counts", response=list[shapes.CountSheetOut], auth=Needs(Action.SEE_STOCK))
def counts(request: HttpRequest) -> list[shapes.CountSheetOut]:
    """The last counts, those that are going on first."""
    return [_out(request, row) for row in queries.counts()]


@router.get("/stock/counts/{int:sheet_id}", response=shapes.CountSheetOut, auth=Needs(Action.SEE_STOCK))
def one_count(request: HttpRequest, sheet_id: Key) -> shapes.CountSheetOut:
    """One count."""
    return _out(request, queries.count_sheet(sheet_id))


@router.post("/stock/counts", response={201: shapes.CountSheetOut}, auth=Needs(Action.MOVE_STOCK))
def begin_count(request: HttpRequest, body: shapes.CountBeginIn) -> Status[shapes.CountSheetOut]:
    """Begin to count a place."""
    row = commands.begin_count(actor=actor_of(request), now=clock.now(), **body.dict())
    return Status(201, _out(request, queries.count_sheet(row.pk)))


@router.put("/stock/counts/{int:sheet_id}/found", response=shapes.CountSheetOut, auth=Needs(Action.MOVE_STOCK))
def enter_found(request: HttpRequest, sheet_id: Key, body: shapes.FoundRowsIn) -> shapes.CountSheetOut:
    """What was counted so far."""
    commands.enter_found(
        actor=actor_of(request), now=clock.now(), sheet_id=sheet_id, found=[one.row() for one in body.found]
    )
    return _out(request, queries.count_sheet(sheet_id))


@router.post("/stock/counts/{int:sheet_id}/finish", response=shapes.CountSheetOut, auth=Needs(Action.MOVE_STOCK))
def finish_count(request: HttpRequest, sheet_id: Key, body: shapes.CountStepIn) -> shapes.CountSheetOut:
    """All is counted: the differences are seen."""
    commands.finish_count(actor=actor_of(request), now=clock.now(), sheet_id=sheet_id, version=body.version)
    return _out(request, queries.count_sheet(sheet_id))


@router.post("/stock/counts/{int:sheet_id}/explain", response=shapes.CountSheetOut, auth=Needs(Action.MOVE_STOCK))
def explain_count(request: HttpRequest, sheet_id: Key, body: shapes.ExplainIn) -> shapes.CountSheetOut:
    """Why parts differ."""
    commands.explain(
        actor=actor_of(request), now=clock.now(), sheet_id=sheet_id, version=body.version, words=body.words
    )
    return _out(request, queries.count_sheet(sheet_id))


@router.post("/stock/counts/{int:sheet_id}/book", response=shapes.CountSheetOut, auth=Needs(Action.MOVE_STOCK))
def book_count(request: HttpRequest, sheet_id: Key, body: shapes.CountStepIn) -> shapes.CountSheetOut:
    """Let the books say what was found."""
    commands.book_count(actor=actor_of(request), now=clock.now(), sheet_id=sheet_id, version=body.version)
    return _out(request, queries.count_sheet(sheet_id))


@router.post("/stock/counts/{int:sheet_id}/drop", response=shapes.CountSheetOut, auth=Needs(Action.MOVE_STOCK))
def drop_count(request: HttpRequest, sheet_id: Key, body: shapes.CountStepIn) -> shapes.CountSheetOut:
    """Book nothing of it."""
    commands.drop_count(actor=actor_of(request), now=clock.now(), sheet_id=sheet_id, version=body.version)
    return _out(request, queries.count_sheet(sheet_id))

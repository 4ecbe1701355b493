"""HTTP: the catalogue."""

from django.http import HttpRequest
from ninja import Router, Status

from apps.catalogue import commands, queries
from apps.catalogue.schemas import EditionOut, JobTypeChangeIn, JobTypeIn, JobTypeOut, StartersIn, TradeOut
from core.roles import Action
from core.trades import TRADES
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.actors import may
from foundation.schemas import Key, MergeInto, UseOut

router = Router()


def _sees_costs(request: HttpRequest) -> bool:
    return may(actor_of(request), Action.SEE_MARGIN)


@router.get("/catalogue/job-types", response=list[JobTypeOut], auth=Needs(Action.SEE_ORDERS))
def job_types(request: HttpRequest, retired: bool = False) -> list[JobTypeOut]:
    """Job types, the most urgent first."""
    sees = _sees_costs(request)
    return [JobTypeOut.of(row, sees_costs=sees) for row in queries.job_types(retired=retired)]


@router.post("/catalogue/job-types", response={201: JobTypeOut}, auth=Needs(Action.CHANGE_SETTINGS))
def add_job_type(request: HttpRequest, body: JobTypeIn) -> Status[JobTypeOut]:
    """A new job type."""
    sees = _sees_costs(request)
    made = commands.add_job_type(
        actor=actor_of(request), now=clock.now(), code=body.code, fields=body.values(sees_costs=sees)
    )
    return Status(201, JobTypeOut.of(made, sees_costs=sees))


@router.get("/catalogue/starters", response=list[TradeOut], auth=Needs(Action.SEE_ORDERS))
def starters(request: HttpRequest) -> list[TradeOut]:
    """Job types that companies of a trade begin with, and which are here already."""
    return [TradeOut.of(trade, queries.codes()) for trade in TRADES]


@router.post("/catalogue/starters", response={201: list[JobTypeOut]}, auth=Needs(Action.CHANGE_SETTINGS))
def take_starters(request: HttpRequest, body: StartersIn) -> Status[list[JobTypeOut]]:
    """Make some of them."""
    made = commands.take_starter_jobs(actor=actor_of(request), now=clock.now(), codes=body.codes)
    return Status(201, [JobTypeOut.of(row, sees_costs=_sees_costs(request)) for row in made])


@router.put("/catalogue/job-types/{int:job_type_id}", response=JobTypeOut, auth=Needs(Action.CHANGE_SETTINGS))
def change_job_type(request: HttpRequest, job_type_id: Key, body: JobTypeChangeIn) -> JobTypeOut:
    """Change a job type from now on."""
    sees = _sees_costs(request)
    row = commands.change_job_type(
        actor=actor_of(request), now=clock.now(), job_type_id=job_type_id, version=body.version,
        fields=body.values(sees_costs=sees),
    )  # fmt: skip
    return JobTypeOut.of(row, sees_costs=sees)


@router.get("/catalogue/job-types/{int:job_type_id}/uses", response=list[UseOut], auth=Needs(Action.SEE_ORDERS))
def job_type_uses(request: HttpRequest, job_type_id: Key) -> list[UseOut]:
    """Who has a job type."""
    return [UseOut(what=what, count=count) for what, count in queries.uses(job_type_id)]


@router.post("/catalogue/job-types/{int:job_type_id}/merge", response=JobTypeOut, auth=Needs(Action.CHANGE_SETTINGS))
def merge_job_type(request: HttpRequest, job_type_id: Key, body: MergeInto) -> JobTypeOut:
    """Make it one with another: whoever has it has the other from now on."""
    row = commands.merge_job_type(
        actor=actor_of(request), now=clock.now(), job_type_id=job_type_id, version=body.version, into=body.into
    )
    return JobTypeOut.of(row, sees_costs=_sees_costs(request))


@router.get("/catalogue/job-types/{int:job_type_id}/editions", response=list[EditionOut], auth=Needs(Action.SEE_ORDERS))
def editions(request: HttpRequest, job_type_id: Key) -> list[EditionOut]:
    """What a job type was, from edition to edition, the newest first."""
    return [
        EditionOut(
            id=row.pk, number=row.number, made_at=int(row.made_at.timestamp()), made_by=row.made_by,
            content=row.content,
        )
        for row in queries.editions(job_type_id)
    ]  # fmt: skip

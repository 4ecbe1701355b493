"""HTTP: requests."""

from typing import Annotated, Literal

from django.http import HttpRequest
from ninja import Query, Router, Status

from apps.intake import commands, queries
from apps.intake.schemas import CloseIn, RequestIn, RequestOut
from core.roles import Action
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.schemas import Key

router = Router()


@router.get("/requests", response=list[RequestOut], auth=Needs(Action.SEE_ORDERS))
def requests(
    request: HttpRequest, state: Annotated[Literal["new", "ordered", "closed"] | None, Query()] = None
) -> list[RequestOut]:
    """Requests, the newest first."""
    return [RequestOut.of(row) for row in queries.requests(state=state)]


@router.get("/requests/{request_id}", response=RequestOut, auth=Needs(Action.SEE_ORDERS))
def one_request(request: HttpRequest, request_id: Key) -> RequestOut:
    """One request."""
    return RequestOut.of(queries.request(request_id))


@router.post("/requests", response={201: RequestOut}, auth=Needs(Action.TAKE_REQUESTS))
def take_request(request: HttpRequest, body: RequestIn) -> Status[RequestOut]:
    """Note a need."""
    row = commands.take_request(actor=actor_of(request), now=clock.now(), site_id=body.site_id, wanted=body.wanted())
    return Status(201, RequestOut.of(row))


@router.post("/requests/{request_id}/close", response=RequestOut, auth=Needs(Action.TAKE_REQUESTS))
def close_request(request: HttpRequest, request_id: Key, body: CloseIn) -> RequestOut:
    """End a request that needs no order."""
    row = commands.close_request(
        actor=actor_of(request), now=clock.now(), request_id=request_id, version=body.version, reason=body.reason
    )
    return RequestOut.of(row)

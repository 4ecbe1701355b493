"""HTTP of the planner's process: for the web process only, on loopback or a private network."""

import secrets
from datetime import date
from typing import Any

from django.conf import settings
from django.http import HttpRequest
from django.urls import path
from ninja import Field, NinjaAPI, Schema
from ninja.security import APIKeyHeader

from apps.orders.drafts import Draft
from apps.planning.planner import world
from apps.planning.planner.offers import expect
from apps.planning.planner.offers import offers as offers_of
from core.basics import Interval
from core.planning.offers import Wish
from foundation.problems import add_handlers


class SharedSecret(APIKeyHeader):
    param_name = "X-Planner-Key"

    def authenticate(self, request: HttpRequest, key: str | None) -> str | None:
        return key if key and secrets.compare_digest(key, settings.PLANNER_KEY) else None


class OpeningsAsked(Schema):
    visit_id: int
    first: date
    days: int
    playbook_id: int | None = None


api = NinjaAPI(title="Planner", docs_url=None, openapi_url=None, urls_namespace="planner", auth=SharedSecret())
add_handlers(api)


@api.get("/health", auth=None)
def health(request: HttpRequest) -> dict[str, bool]:
    return {"ready": True}


@api.post("/openings")
def openings(request: HttpRequest, body: OpeningsAsked) -> dict[str, Any]:
    return world.openings(visit_id=body.visit_id, first=body.first, days=body.days, playbook_id=body.playbook_id)


class DraftAsked(Schema):
    """As `apps.orders.drafts.Draft`."""

    site_id: int
    duration_seconds: int | None
    needs: dict[str, int]
    priority: int
    crew: int = 1
    due: int | None = None
    earliest: int | None = None
    job_type_id: int | None = None
    parts: dict[str, int] = Field(default_factory=dict)
    visit_id: int | None = None


class OffersAsked(Schema):
    """`start` and `end` name one window that is to be checked."""

    draft: DraftAsked
    not_before: date | None = None
    not_after: date | None = None
    weekdays: list[int] = Field(default_factory=list)
    part: str = ""
    start: int | None = None
    end: int | None = None


@api.post("/offers")
def offers(request: HttpRequest, body: OffersAsked) -> dict[str, Any]:
    wish = Wish(not_before=body.not_before, not_after=body.not_after, weekdays=frozenset(body.weekdays), part=body.part)
    window = Interval(start=body.start, end=body.end) if body.start is not None and body.end is not None else None
    return offers_of(draft=Draft(**body.draft.dict()), wish=wish, window=window)


@api.post("/expect")
def expect_offers(request: HttpRequest) -> dict[str, bool]:
    """Somebody is about to ask for offers."""
    expect()
    return {"expected": True}


urlpatterns = [path("", api.urls)]

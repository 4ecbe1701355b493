"""HTTP of the planner's process: offers."""

from datetime import date
from typing import Any

from django.http import HttpRequest
from ninja import Field, Router, Schema

from apps.appointments.planner.offers import expect
from apps.appointments.planner.offers import offers as offers_of
from apps.orders.drafts import Draft
from core.appointments.offers import Wish
from core.basics import Interval

router = Router()


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


@router.post("/offers")
def offers(request: HttpRequest, body: OffersAsked) -> dict[str, Any]:
    wish = Wish(not_before=body.not_before, not_after=body.not_after, weekdays=frozenset(body.weekdays), part=body.part)
    window = Interval(start=body.start, end=body.end) if body.start is not None and body.end is not None else None
    return offers_of(draft=Draft(**body.draft.dict()), wish=wish, window=window)


@router.post("/expect")
def expect_offers(request: HttpRequest) -> dict[str, bool]:
    """Somebody is about to ask for offers."""
    expect()
    return {"expected": True}

"""HTTP of the planner's process: openings."""

from datetime import date
from typing import Any

from django.http import HttpRequest
from ninja import Router, Schema

from apps.scheduling.planner import world

router = Router()


class OpeningsAsked(Schema):
    visit_id: int
    first: date
    days: int
    playbook_id: int | None = None


@router.post("/openings")
def openings(request: HttpRequest, body: OpeningsAsked) -> dict[str, Any]:
    return world.openings(visit_id=body.visit_id, first=body.first, days=body.days, playbook_id=body.playbook_id)

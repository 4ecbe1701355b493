"""HTTP of the planner's process: for the web process only, on loopback or a private network."""

import secrets
from datetime import date
from typing import Any

from django.conf import settings
from django.http import HttpRequest
from django.urls import path
from ninja import NinjaAPI, Schema
from ninja.security import APIKeyHeader

from apps.planning.planner import world
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


urlpatterns = [path("", api.urls)]

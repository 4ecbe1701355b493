"""HTTP of the planner's process: for the web process only, on loopback or a private network."""

import secrets

from django.conf import settings
from django.http import HttpRequest
from django.urls import path
from ninja import NinjaAPI
from ninja.security import APIKeyHeader

from apps.appointments.planner.api import router as offers
from apps.scheduling.planner.api import router as openings
from foundation.problems import add_handlers


class SharedSecret(APIKeyHeader):
    param_name = "X-Planner-Key"

    def authenticate(self, request: HttpRequest, key: str | None) -> str | None:
        return key if key and secrets.compare_digest(key, settings.PLANNER_KEY) else None


api = NinjaAPI(title="Planner", docs_url=None, openapi_url=None, urls_namespace="planner", auth=SharedSecret())
add_handlers(api)
api.add_router("", openings)
api.add_router("", offers)


@api.get("/health", auth=None)
def health(request: HttpRequest) -> dict[str, bool]:
    return {"ready": True}


urlpatterns = [path("", api.urls)]

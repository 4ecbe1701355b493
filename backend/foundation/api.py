"""Health, and the stream of live changes."""

import json
import time
from collections.abc import AsyncIterator, Callable
from functools import partial
from typing import Any, cast

from asgiref.sync import sync_to_async
from django.contrib.auth import get_user_model
from django.contrib.sessions.backends.db import SessionStore
from django.db import connection
from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from ninja import Router, Schema, Status

from core.roles import Action
from foundation.access import Needs
from foundation.actors import Actor, may
from foundation.hub import hub
from foundation.problems import problem

router = Router()
# A stream outlives what opened it: so often it is looked whether its session still stands.
LOOK_AGAIN_SECONDS = 10.0


class Health(Schema):
    """`worker` is the age in seconds of the worker's last sign of life, or None."""

    database: bool
    worker: float | None


@router.get("/health", response={200: Health, 503: Health}, auth=None)
def health(request: HttpRequest) -> Status[dict[str, Any]]:
    """Whether the application can work: database and background worker."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT extract(epoch FROM now() - max(last_heartbeat)) FROM procrastinate_workers")
        row = cursor.fetchone()
    age = None if row is None or row[0] is None else round(float(row[0]), 1)
    return Status(200 if age is not None and age < 60 else 503, {"database": True, "worker": age})


class Parts(Schema):
    """Which of the processes behind the interface are there."""

    worker: bool
    planner: bool


@router.get("/health/parts", response=Parts, auth=Needs(Action.USE))
def parts(request: HttpRequest) -> dict[str, bool]:
    """Whether worker and planner are connected to the database: each has its name there."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT DISTINCT application_name FROM pg_stat_activity WHERE datname = current_database()")
        names = {row[0] for row in cursor.fetchall()}
    return {part: f"relay-{part}" in names for part in ("worker", "planner")}


@router.get("/live", auth=None, response={200: str, 401: str}, summary="Live changes, as server-sent events")
async def live(request: HttpRequest) -> HttpResponse | StreamingHttpResponse:
    """Server-sent events: `change` with what to look up again, `resync` after an interruption."""
    account = await request.auser()
    if not account.is_authenticated:
        return problem(401, "Sign in first.", "signed_out")
    technician = await sync_to_async(_technician_and_let_go)(account)
    actor = cast(Actor, account)
    sees_all = may(actor, Action.SEE_BOARD) or may(actor, Action.SEE_ORDERS)
    stream = _stream(sees_all, technician, partial(_still_signed_in, request.session.session_key, account.pk))
    answer = StreamingHttpResponse(stream, content_type="text/event-stream")
    answer["Cache-Control"] = "no-store"
    answer["X-Accel-Buffering"] = "no"
    return answer


def _technician_and_let_go(account: Any) -> int | None:
    """Whose phone this is. Gives the connection back: a stream lasts for hours and needs none."""
    found: int | None = account.technician_id
    connection.close()
    return found


def _still_signed_in(session_key: str | None, account_id: int) -> bool:
    """Whether the session is still there and its account may still sign in. Gives the connection back."""
    try:
        there = SessionStore(session_key).get("_auth_user_id") == str(account_id)
        return there and get_user_model()._default_manager.filter(pk=account_id, is_active=True).exists()
    finally:
        connection.close()


async def _stream(sees_all: bool, technician: int | None, signed_in: Callable[[], bool]) -> AsyncIterator[bytes]:
    looked = time.monotonic()
    async for event in hub.events():
        if time.monotonic() - looked >= LOOK_AGAIN_SECONDS:
            if not await sync_to_async(signed_in)():
                yield b"event: ended\ndata: {}\n\n"
                return
            looked = time.monotonic()
        if event is None:
            yield b"event: beat\ndata: {}\n\n"
        elif event["topic"] == "hello":
            yield b"retry: 1000\nevent: hello\ndata: {}\n\n"
        elif event["topic"] == "resync":
            yield b"event: resync\ndata: {}\n\n"
        elif sees_all or technician in event.get("technicians", ()):
            yield f"event: change\ndata: {json.dumps(event)}\n\n".encode()

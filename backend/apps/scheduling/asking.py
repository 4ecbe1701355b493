"""Asking the planner's process. An interface a planner elsewhere can take: one JSON request, one answer."""

from datetime import date
from functools import cache
from typing import Any

import httpx
from django.conf import settings

from foundation.connections import give_back
from foundation.errors import NotFound, Rejected, TryAgain

PATIENCE_SECONDS = 10.0


def openings(*, visit_id: int, first: date, days: int, playbook_id: int | None) -> dict[str, Any]:
    """Ranked openings of a visit, and who is excluded.

    Raises
    ------
    TryAgain
        When the planner does not answer.
    """
    return ask("/openings", visit_id=visit_id, first=first.isoformat(), days=days, playbook_id=playbook_id)


def ask(path: str, **body: Any) -> dict[str, Any]:
    """One question. No connection to the database is held while the planner thinks.

    Raises
    ------
    NotFound, Rejected, TryAgain
        As the planner says; TryAgain also when it does not answer.
    """
    give_back()
    try:
        answer = _client().post(path, json=body)
    except httpx.HTTPError as error:
        raise TryAgain("The planner does not answer just now. Try again in a moment.", code="no_planner") from error
    if answer.is_success:
        found: dict[str, Any] = answer.json()
        return found
    problem = answer.json() if "json" in answer.headers.get("Content-Type", "") else {}
    sentence = problem.get("title") or "The planner did not understand."
    if answer.status_code == 404:
        raise NotFound(sentence, code=problem.get("code", "not_found"))
    if answer.status_code == 422:
        raise Rejected(sentence, code=problem.get("code", "rejected"))
    raise TryAgain("The planner met an error. Try again.", code="planner_failed")


def _client() -> httpx.Client:
    """The process's connections to the planner, kept open between questions."""
    return _client_of(settings.PLANNER_URL, settings.PLANNER_KEY)


@cache
def _client_of(url: str, key: str) -> httpx.Client:
    return httpx.Client(
        base_url=url, headers={"X-Planner-Key": key}, timeout=PATIENCE_SECONDS,
        # Let go before the server does, which is after five seconds: a question never meets a closing connection.
        limits=httpx.Limits(keepalive_expiry=3.0),
        # The machine's own proxy settings are for the way out, not for the process next door.
        trust_env=False,
    )  # fmt: skip

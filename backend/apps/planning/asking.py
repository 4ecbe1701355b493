"""Asking the planner's process. An interface a planner elsewhere can take: one JSON request, one answer."""

import contextlib
import json
import urllib.error
import urllib.request
from collections.abc import Mapping
from datetime import date
from typing import Any

from django.conf import settings

from apps.orders.drafts import Draft
from core.basics import Interval
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
    return _ask("/openings", visit_id=visit_id, first=first.isoformat(), days=days, playbook_id=playbook_id)


def offers(*, draft: Draft, wish: Mapping[str, Any]) -> dict[str, Any]:
    """Windows that can be kept for a visit that is being taken, best first.

    Parameters
    ----------
    draft
        What is asked for.
    wish
        not_before, not_after (ISO dates), weekdays, part.
    """
    return _ask("/offers", draft=draft.as_json(), **wish)


def expect_offers() -> None:
    """Tell the planner that somebody is about to ask for offers: it makes the days ready.

    Only a hint: a planner that does not answer is said when the offers are asked for.
    """
    with contextlib.suppress(TryAgain):
        _ask("/expect")


def keeps(*, draft: Draft, window: Interval) -> tuple[dict[str, Any] | None, list[str]]:
    """The offer that proves that a window can be kept as things are now; None when it cannot, and why not."""
    found = _ask("/offers", draft=draft.as_json(), start=window.start, end=window.end)
    offers: list[dict[str, Any]] = found["offers"]
    return (offers[0] if offers else None), list(found["refusals"])


def _ask(path: str, **body: Any) -> dict[str, Any]:
    give_back()
    request = urllib.request.Request(
        settings.PLANNER_URL + path,
        data=json.dumps(body).encode(),
        headers={"Content-Type": "application/json", "X-Planner-Key": settings.PLANNER_KEY},
    )
    try:
        with urllib.request.urlopen(request, timeout=PATIENCE_SECONDS) as answer:
            found: dict[str, Any] = json.load(answer)
            return found
    except urllib.error.HTTPError as error:
        problem = json.load(error) if "json" in error.headers.get("Content-Type", "") else {}
        sentence = problem.get("title") or "The planner did not understand."
        if error.code == 404:
            raise NotFound(sentence, code=problem.get("code", "not_found")) from error
        if error.code == 422:
            raise Rejected(sentence, code=problem.get("code", "rejected")) from error
        raise TryAgain("The planner met an error. Try again.", code="planner_failed") from error
    except OSError as error:
        raise TryAgain("The planner does not answer just now. Try again in a moment.", code="no_planner") from error

"""Asking the planner's process for times that can be kept."""

import contextlib
from collections.abc import Mapping
from typing import Any

from apps.orders.drafts import Draft
from apps.scheduling import asking as planner
from core.basics import Interval
from foundation.errors import TryAgain


def offers(*, draft: Draft, wish: Mapping[str, Any]) -> dict[str, Any]:
    """Windows that can be kept for a visit that is being taken, best first.

    Parameters
    ----------
    draft
        What is asked for.
    wish
        not_before, not_after (ISO dates), weekdays, part.
    """
    return planner.ask("/offers", draft=draft.as_json(), **wish)


def expect_offers() -> None:
    """Tell the planner that somebody is about to ask for offers: it makes the days ready.

    Only a hint: a planner that does not answer is said when the offers are asked for.
    """
    with contextlib.suppress(TryAgain):
        planner.ask("/expect")


def keeps(*, draft: Draft, window: Interval) -> tuple[dict[str, Any] | None, list[str]]:
    """The offer that proves that a window can be kept as things are now; None when it cannot, and why not."""
    found = planner.ask("/offers", draft=draft.as_json(), start=window.start, end=window.end)
    offers: list[dict[str, Any]] = found["offers"]
    return (offers[0] if offers else None), list(found["refusals"])

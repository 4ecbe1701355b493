"""What a day came to, and what somebody has to be asked about it that evening, not at the month's end.

A phone works the same out without a signal; `tests/core/daylogs/days.json` holds both to the same answers. Moments are
epoch seconds, distances whole kilometres.
"""

from collections.abc import Sequence
from dataclasses import dataclass

# Longer than this, a stamp was forgotten more often than it was so.
LONG_DAY = 14 * 3600
LONG_PAUSE = 3 * 3600
# Somebody who works so long takes a break.
WITHOUT_PAUSE = 6 * 3600
FAR = 800


@dataclass(frozen=True, kw_only=True)
class Stretch:
    """`until` None: it goes on."""

    since: int
    until: int | None


@dataclass(frozen=True, kw_only=True)
class VisitOfDay:
    """One's own part in a visit: when they set out, came and left, as stamped; `over`: nothing is left to do there."""

    label: str
    departed: int | None
    arrived: int | None
    finished: int | None
    over: bool


@dataclass(frozen=True, kw_only=True)
class DayFacts:
    """What is known of a day. `checks_open`: checks of the vehicle that must be answered and are not."""

    began: int | None = None
    ended: int | None = None
    pauses: Sequence[Stretch] = ()
    odometer_began: int | None = None
    odometer_ended: int | None = None
    drives: bool = False
    checks_open: int = 0
    fuel_without_receipt: int = 0
    visits: Sequence[VisitOfDay] = ()


@dataclass(frozen=True, kw_only=True)
class Summary:
    """Seconds and kilometres; None: it cannot be said (yet). `open`: visits that are not over, by label."""

    hours: int | None
    pauses: int
    driving: int
    at_visits: int
    kilometres: int | None
    open: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class OddEntry:
    """Something missing or odd: a name that stays the same, and the question in words."""

    key: str
    words: str


def summary(facts: DayFacts) -> Summary:
    """What the day came to so far."""
    pauses = sum(pause.until - pause.since for pause in facts.pauses if pause.until is not None)
    hours = None if facts.began is None or facts.ended is None else max(0, facts.ended - facts.began - pauses)
    begun, ended = facts.odometer_began, facts.odometer_ended
    return Summary(
        hours=hours,
        pauses=pauses,
        driving=sum(_between(row.departed, row.arrived) for row in facts.visits),
        at_visits=sum(_between(row.arrived, row.finished) for row in facts.visits),
        kilometres=None if begun is None or ended is None else max(0, ended - begun),
        open=tuple(row.label for row in facts.visits if not row.over),
    )  # fmt: skip


def _between(since: int | None, until: int | None) -> int:
    return 0 if since is None or until is None else max(0, until - since)


def odd_entries(facts: DayFacts) -> tuple[OddEntry, ...]:
    """What has to be asked about the day, in the order of the day. Nothing of a day on which nobody did anything."""
    if facts.began is None and not any(row.arrived for row in facts.visits):
        return ()
    found = [*_of_times(facts), *_of_the_vehicle(facts)]
    return tuple(OddEntry(key=key, words=words) for key, words in found)


def _of_times(facts: DayFacts) -> list[tuple[str, str]]:
    found: list[tuple[str, str]] = []
    came = summary(facts)
    if facts.began is None:
        found.append(("no beginning", "When did the day begin? It was not written down."))
    if facts.ended is None:
        found.append(("no end", "When did the day end? It was not written down."))
    if any(pause.until is None for pause in facts.pauses):
        found.append(("pause goes on", "When did the last break end?"))
    elif any(pause.until is not None and pause.until - pause.since > LONG_PAUSE for pause in facts.pauses):
        found.append(("long pause", "A break of more than 3 hours: is that right?"))
    if came.hours is not None and came.hours > LONG_DAY:
        found.append(("long day", "More than 14 hours of work: is that right?"))
    if came.hours is not None and came.hours > WITHOUT_PAUSE and not facts.pauses:
        found.append(("no pause", "More than 6 hours without a break: is that right?"))
    return found


def _of_the_vehicle(facts: DayFacts) -> list[tuple[str, str]]:
    if not facts.drives:
        return []
    found: list[tuple[str, str]] = []
    begun, ended = facts.odometer_began, facts.odometer_ended
    if begun is None:
        found.append(("no odometer", "What did the odometer say in the morning?"))
    if ended is None:
        found.append(("no odometer at the end", "What does the odometer say now?"))
    if begun is not None and ended is not None and not 0 <= ended - begun <= FAR:
        found.append(("odd kilometres", "The odometer does not fit a day's driving: is that right?"))
    if facts.checks_open:
        found.append(("no checks", "The vehicle was not checked: why?"))
    if facts.fuel_without_receipt:
        found.append(("no receipt", "Fuel without a photo of the receipt: where is it?"))
    return found

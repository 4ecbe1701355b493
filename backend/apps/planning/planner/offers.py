"""Offers of a time, answered from the days kept warm."""

import threading
import time
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any

from django.db import connection

from apps.catalogue.models import JobType
from apps.catalogue.queries import offer_settings
from apps.company.queries import areas, company, settings, time_zone
from apps.customers.people import preferred_at, refused_at
from apps.orders import queries as orders
from apps.planning.playbooks import playbook_of, playbook_row
from apps.planning.problems import Loaded, load_problem
from apps.planning.urgent import respond_by
from apps.roads.queries import travel_among
from core.basics import Interval, Place
from core.calendars import day_interval, epoch, local_day
from core.company import Settings
from core.company.settings import parse_span
from core.planning import VisitSpec
from core.planning.engine import OfferFinder
from core.planning.offers import Offer, OfferRules, Offers, Wish, windows_on
from core.planning.proposal import Placing, ProposedChange
from foundation import audit, clock

# Offers of today drift with the clock.
KEPT_SECONDS = 60
# As soon as possible means: within this, where the job type says nothing.
SOON_SECONDS = 2 * 3600
URGENT = 2
GRAIN = 300


@dataclass(frozen=True, kw_only=True)
class Draft:
    """The visit that is being promised: as JSON, because its order may not exist yet."""

    lon: float
    lat: float
    area: str | None
    site_id: int
    duration_seconds: int | None
    needs: dict[str, int]
    priority: int
    crew: int = 1
    due: int | None = None
    earliest: int | None = None
    job_type_id: int | None = None
    opening: tuple[str, ...] = ()
    visit_id: int | None = None


@dataclass(frozen=True, kw_only=True)
class _World:
    key: tuple[Any, ...]
    made_at: float
    loaded: Loaded
    finder: OfferFinder
    places: list[Place]


# A finder is one mutable thing; and one world is made at a time, while the old one still answers.
_lock, _making = threading.Lock(), threading.Lock()
_world: _World | None = None
_asked_at = 0.0
# So long after the last question the days are kept ready for the next one.
READY_SECONDS = 900


def offers(*, draft: Draft, wish: Wish, window: Interval | None = None) -> dict[str, Any]:
    """Windows that can be kept, best first; with `window`, whether that one can."""
    began = time.perf_counter()
    expect()
    job = JobType.objects.filter(pk=draft.job_type_id).first() if draft.job_type_id else None
    own = offer_settings(settings(), job)
    with _making:
        world = _current(own, draft.visit_id)
    with _lock:
        place = Place(draft.lon, draft.lat)
        travel = travel_among([*world.places, place])
        spec = _spec(draft, job, travel.matrix.index[place], world)
        asked = [window] if window is not None else _windows(own, draft, wish, job)
        found = world.finder.offers(spec, asked, rules=_rules(own, draft, job, window), travel=travel)
    return _as_json(
        world.loaded, found, recommend=own.offers_on, milliseconds=round(1000 * (time.perf_counter() - began))
    )


def expect() -> None:
    """Somebody is about to ask: the days are made ready, and kept so."""
    global _asked_at
    _asked_at = time.monotonic()


def keep_ready() -> None:
    """Make the days anew when something has changed, before the next agent asks; nothing when nobody asks."""
    if not _asked_at or time.monotonic() - _asked_at > READY_SECONDS:
        return
    try:
        with _making:
            _current(settings(), None)
    finally:
        connection.close()  # this thread's; it goes back to the pool


def _current(own: Settings, but: int | None) -> _World:
    """The days as they are now: kept as long as nothing was written."""
    global _world
    row = playbook_row(None)
    now = clock.now()
    today = local_day(int(now.timestamp()), time_zone())
    key = (audit.mark(), row.version, row.pk, company().version, today, own.offers_days)
    known = _world
    fresh = known is not None and known.key == key and 0 <= now.timestamp() - known.made_at < KEPT_SECONDS
    if known is not None and fresh and but not in known.loaded.lines:
        return known
    loaded = load_problem(
        first=today, days=own.offers_days, playbook=playbook_of(row), now=now, promised_only=True, but=but
    )
    places = list(loaded.problem.travel.matrix.places)  # type: ignore[attr-defined]
    made = _World(key=key, made_at=now.timestamp(), loaded=loaded, finder=OfferFinder(loaded.problem), places=places)
    if but is None:
        _world = made
    return made


def _spec(draft: Draft, job: JobType | None, place: int, world: _World) -> VisitSpec:
    learned = orders.learned_durations().get(job.name) if job else None
    seconds = draft.duration_seconds
    return VisitSpec(
        id=0, label="this visit", place=place, duration=seconds,
        durations=learned.for_duration(seconds) if learned and seconds else {}, needs=draft.needs, area=draft.area,
        opening=_opening(draft, world.loaded), earliest=draft.earliest, due=draft.due, crew=draft.crew,
        forbidden=refused_at([draft.site_id]).get(draft.site_id, frozenset()),
        preferred=preferred_at([draft.site_id]).get(draft.site_id, frozenset()),
        last_technician=orders.last_technicians([draft.site_id]).get(draft.site_id), priority=draft.priority,
    )  # fmt: skip


def _opening(draft: Draft, loaded: Loaded) -> tuple[Interval, ...]:
    if not any(draft.opening):
        return ()
    tz, days = time_zone(), [day for _technician, day in loaded.keys]
    if not days:
        return ()  # nobody works, nothing is offered
    spans = [(day, draft.opening[day.weekday()]) for day in _three_weeks(min(days))]
    return tuple(
        Interval(start=epoch(day, parse_span(span)[0], tz), end=epoch(day, parse_span(span)[1], tz))
        for day, span in spans
        if span
    )


def _three_weeks(first: date) -> list[date]:
    return [first + timedelta(days=number) for number in range(21)]


def _windows(own: Settings, draft: Draft, wish: Wish, job: JobType | None) -> list[Interval]:
    """The company's windows of the days ahead that the wish allows; for urgent work, as soon as possible besides."""
    tz, now = time_zone(), int(clock.now().timestamp())
    today = local_day(now, tz)
    days = [today + timedelta(days=number) for number in range(own.offers_days)]
    open_days = [day for day in days if own.hours_on(day.weekday())]
    minutes = job.promise_minutes if job else None
    found = [w for w in windows_on(open_days, own.window_times(), tz, now=now, minutes=minutes) if wish.allows(w, tz)]
    if draft.priority <= URGENT and wish == Wish():
        start = -(-now // GRAIN) * GRAIN
        seconds = 60 * job.respond_minutes if job and job.respond_minutes else SOON_SECONDS
        end = min(start + seconds, day_interval(today, tz).end)
        if end - start >= GRAIN:
            found.insert(0, Interval(start=start, end=end))
    if draft.due is not None:
        found = [window for window in found if window.start < draft.due]
    return found


def _rules(own: Settings, draft: Draft, job: JobType | None, window: Interval | None) -> OfferRules:
    return OfferRules(
        near_metres=own.near_metres, near=own.weight_near, driving=own.weight_driving, soon=own.weight_soon,
        rare=own.weight_rare, load=own.weight_load, shown=1 if window is not None else own.offers_shown,
        least=own.offers_least, recommend=own.offers_on, respond_by=respond_by(job, int(clock.now().timestamp())),
        outside=draft.area is None and bool(areas()),
    )  # fmt: skip


def _as_json(loaded: Loaded, found: Offers, *, recommend: bool, milliseconds: int) -> dict[str, Any]:
    names = {day.technician.id: day.technician.name for day in loaded.problem.days}
    return {
        "offers": [_offer(loaded, offer, names) for offer in found.offers],
        "looked_at": found.looked_at,
        "recommend": recommend,
        "refusals": list(found.refusals),
        "remedies": [
            {"start": row.window.start, "end": row.window.end, "sentence": row.sentence} for row in found.remedies
        ],
        "milliseconds": milliseconds,
    }


def _offer(loaded: Loaded, offer: Offer, names: dict[int, str]) -> dict[str, Any]:
    return {
        "start": offer.window.start,
        "end": offer.window.end,
        "score": offer.score,
        "parts": dict(offer.parts),
        "recommended": offer.recommended,
        "reasons": list(offer.reasons),
        "starts_at": offer.start,
        "technicians": [{"id": key, "name": names[key]} for key in offer.technician_ids],
        "moves": [_move(loaded, move) for move in offer.moves],
    }


def _move(loaded: Loaded, move: ProposedChange) -> dict[str, Any]:
    line = loaded.lines[move.visit_id]
    return {
        "visit_id": move.visit_id,
        "version": line.version,
        "label": move.label,
        "after": [_placing(loaded, place) for place in move.after],
    }


def _placing(loaded: Loaded, place: Placing) -> dict[str, Any]:
    technician_id, _day = loaded.keys[place.day]
    return {"technician_id": technician_id, "start": place.start}

"""Offers of a time, answered from the days kept warm."""

import threading
import time
from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import timedelta
from typing import Any

from django.db import connection

from apps.appointments.urgent import respond_by
from apps.catalogue.models import JobType
from apps.catalogue.queries import offer_settings
from apps.company.queries import areas, company, settings, time_zone
from apps.orders.drafts import Draft, visit_of_draft
from apps.orders.lines import VisitLine, line_of
from apps.roads.queries import travel_among
from apps.scheduling.assembling import Facts, facts_of, without_parts
from apps.scheduling.playbooks import playbook_of, playbook_row
from apps.scheduling.problems import Loaded, load_problem
from apps.scheduling.vans import vans_for
from core.appointments.finder import OfferFinder
from core.appointments.offers import Offer, OfferRules, Offers, Wish, windows_on
from core.basics import Interval, Place
from core.calendars import day_interval, local_day
from core.company import Settings
from core.scheduling import VisitSpec, overdue_at
from core.scheduling.judgement.proposal import Placing, ProposedChange
from foundation import audit, clock

# Offers of today drift with the clock.
KEPT_SECONDS = 60
# As soon as possible means: within this, where the job type says nothing.
SOON_SECONDS = 2 * 3600
URGENT = 2
GRAIN = 300


@dataclass(frozen=True, kw_only=True)
class _World:
    key: tuple[Any, ...]
    made_at: float
    loaded: Loaded
    finder: OfferFinder
    places: list[Place]
    # Those of which the days know all that lies in depots and on vans, and those that promised work without a
    # technician will take: of these only a share is anybody's.
    parts: set[str]


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
    visit = visit_of_draft(draft)
    job, line = visit.order.job_type, line_of(visit)
    own = offer_settings(settings(), job)
    with _making:
        world = _current(own, draft.visit_id)
    with _lock:
        travel = travel_among([*world.places, line.place])
        facts = facts_of([line], wishes=True)
        spec = _spec(line, facts, travel.index, own)
        _learn_parts(world, line, facts)
        asked = [window] if window is not None else _windows(own, draft, wish, job)
        found = world.finder.offers(spec, asked, rules=_rules(own, line, job, window), travel=travel)
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
    places = list(loaded.problem.travel.places)  # type: ignore[attr-defined]
    made = _World(
        key=key, made_at=now.timestamp(), loaded=loaded, finder=OfferFinder(loaded.problem), places=places,
        parts={part for line in loaded.lines.values() if line.technician_id is None for part in line.takes},
    )  # fmt: skip
    if but is None:
        _world = made
    return made


def _learn_parts(world: _World, line: VisitLine, facts: Facts) -> None:
    """What is asked for may take parts that nothing else takes: without knowing where they lie, nobody had them."""
    new = {part: number for part, number in line.takes.items() if part not in world.parts}
    if not new:
        return
    vans = vans_for([replace(line, takes=new)], but=[line.id])
    world.finder.learn([facts.load(vans, technician, day) for technician, day in world.loaded.keys])
    world.parts.update(new)


def _spec(line: VisitLine, facts: Facts, index: Mapping[Place, int], own: Settings) -> VisitSpec:
    """The visit as it would be made, as the days know all the others."""
    now = int(clock.now().timestamp())
    today = local_day(now, time_zone())
    spec = facts.spec(line, index, today, today + timedelta(days=own.offers_days - 1))
    spec = without_parts(spec) if spec.crew > 1 else spec
    return overdue_at(replace(spec, id=0, label="this visit"), now)


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
    if draft.due is not None and draft.due > now:  # once it has passed, the sooner the better
        found = [window for window in found if window.start < draft.due]
    return found


def _rules(own: Settings, line: VisitLine, job: JobType | None, window: Interval | None) -> OfferRules:
    return OfferRules(
        near_metres=own.near_metres, near=own.weight_near, driving=own.weight_driving, soon=own.weight_soon,
        rare=own.weight_rare, load=own.weight_load, shown=1 if window is not None else own.offers_shown,
        least=own.offers_least, recommend=own.offers_on, respond_by=respond_by(job, int(clock.now().timestamp())),
        outside=line.area is None and bool(areas()),
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

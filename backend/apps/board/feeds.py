"""A technician's day taken along: a calendar feed (RFC 5545) behind a secret link, and the route sheet on paper."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from typing import Any

from django.conf import settings
from django.core.signing import BadSignature, Signer
from django.template.loader import render_to_string
from icalendar import Calendar, Event

from apps.board.models import Reminder
from apps.board.queries import reminders_on
from apps.company.queries import company, time_zone
from apps.orders import queries as orders
from apps.orders.lines import VisitLine
from apps.orders.models import Visit
from apps.orders.printing import work_orders_pdf
from apps.people import queries as people
from apps.people.working_days import working_days
from apps.scheduling.assembling import days_of
from apps.scheduling.placed import placed_on
from apps.scheduling.schedule import evaluate_on
from apps.stock.queries import with_names
from core.basics import Interval, minutes_in_words
from core.calendars import local_time
from core.orders import VisitState
from foundation.errors import NotFound, Rejected
from foundation.moments import to_datetime
from foundation.papers import font

_SALT = "calendar feed"
DAYS_BACK, DAYS_AHEAD = 7, 42
# What is only placed may still change: a calendar shows what was sent, as the phone does.
_SHOWN = frozenset(VisitState) - {VisitState.OPEN, VisitState.PLACED, VisitState.CANCELLED, VisitState.MISSED}


def feed_path(technician_id: int) -> str | None:
    """The address of a technician's calendar, which nobody guesses; None while it is closed."""
    person = people.technician(technician_id)
    if not person.calendar_open:
        return None
    token = Signer(salt=_SALT).sign(f"{technician_id}-{person.calendar_edition}").replace(":", ".")
    return f"/api/v1/board/calendar/{token}"


def calendar(token: str, *, now: datetime, base: str = "") -> str:
    """A technician's visits as iCalendar text; `base` is the address of the application, for links.

    Raises
    ------
    NotFound
        When the link is not one of ours, or not any more.
    """
    try:
        named, _, edition = Signer(salt=_SALT).unsign(token.replace(".", ":")).partition("-")
        technician_id = int(named)
    except (BadSignature, ValueError) as error:
        raise NotFound("There is no such calendar.", code="no_calendar") from error
    person = people.technician(technician_id)
    # Links of old name no edition: they are the first one.
    if not person.calendar_open or (edition or "1") != str(person.calendar_edition):
        raise NotFound("This link was renewed or closed. Ask for the new one.", code="no_calendar")
    start = int((now - timedelta(days=DAYS_BACK)).timestamp())
    end = int((now + timedelta(days=DAYS_AHEAD)).timestamp())
    lines = orders.visits_within(Interval(start=start, end=end), technician_ids=[technician_id])
    feed = Calendar()
    feed.add("prodid", "-//Iron Relay//Visits//EN")
    feed.add("version", "2.0")
    feed.add("x-wr-calname", f"{company().name}: {person.name}")
    shown = [line for line in lines if line.state in _SHOWN]
    rows = {visit.pk: visit for visit in orders.visits_named(line.id for line in shown)}
    for line in shown:
        feed.add_component(_event(line, rows[line.id], now, base))
    for reminder in reminders_on(technician_id, since=to_datetime(start), before=to_datetime(end)):
        feed.add_component(_to_think_of(reminder, now))
    text: str = feed.to_ical().decode()
    return text


def _to_think_of(reminder: Reminder, now: datetime) -> Event:
    """A flag before it: it is no visit, and takes none of the day."""
    event = Event()
    event.add("uid", f"reminder-{reminder.pk}@iron-relay")
    event.add("dtstamp", now.astimezone(UTC))
    event.add("dtstart", reminder.at.astimezone(UTC))
    event.add("duration", timedelta())
    event.add("summary", f"\u2691 {reminder.text}")
    event.add("transp", "TRANSPARENT")
    return event


def _event(line: VisitLine, visit: Visit, now: datetime, base: str) -> Event:
    assert line.start is not None  # on somebody's day
    event = Event()
    event.add("uid", f"visit-{line.id}@iron-relay")
    event.add("dtstamp", now.astimezone(UTC))
    event.add("dtstart", to_datetime(line.start).astimezone(UTC))
    event.add("dtend", to_datetime(line.start + (line.duration_seconds or 3600)).astimezone(UTC))
    event.add("summary", f"{line.title}, {line.site}")
    event.add("location", line.address)
    event.add("description", _description(line, visit))
    if base:
        event.add("url", f"{base}field/{line.id}")
    event.add("geo", (round(line.place.lat, 6), round(line.place.lon, 6)))
    return event


def _description(line: VisitLine, visit: Visit) -> str:
    promised = ""
    if line.promise is not None:
        tz = time_zone()
        promised = f", promised {local_time(line.promise.start, tz)}-{local_time(line.promise.end, tz)}"
    order = visit.order
    ask_for = " ".join(filter(None, [order.contact_name, order.contact_phone or order.customer.phone]))
    said = [
        f"{line.number} for {line.customer}{promised}", f"Ask for: {ask_for}" if ask_for else "",
        f"Access: {order.site.access_notes}" if order.site.access_notes else "",
        order.asset.words if order.asset else "", visit.notes, order.technician_note,
    ]  # fmt: skip
    return "\n".join(filter(None, said))


@dataclass(frozen=True, kw_only=True)
class _Row:
    begins: str
    drive: int
    visit: Visit
    promise: str
    length: str
    crew: int
    parts: str


def route_sheet(*, day: date, technician_id: int | None, now: datetime) -> bytes:
    """The day on paper (PDF): one page and more for each technician who has something to do.

    Raises
    ------
    NotFound
        When nobody has.
    """
    pages = list(_pages(day, technician_id, now))
    if not pages:
        raise NotFound("Nothing is planned on that day.", code="nothing_planned")
    html = render_to_string(
        "board/route_sheet.html", {"company": company().name, "day": day, "pages": pages, "font": font()}
    )
    from weasyprint import HTML  # it takes a second to load, and only printing needs it

    found: bytes = HTML(string=html, base_url=str(settings.ROOT)).write_pdf()
    return found


# A page takes half a second: more at once would hold a server process for long.
MOST_ORDERS = 20


def work_orders_of(*, day: date, technician_id: int | None) -> list[int]:
    """The work orders of a day, technician by technician in the order in which they are done.

    Raises
    ------
    NotFound
        When nothing is planned.
    """
    tz = time_zone()
    ids = None if technician_id is None else [technician_id]
    placed = placed_on(day, technician_ids=ids)
    names = {person.id: person.name for person in working_days(day, tz)}
    placed.sort(key=lambda line: (names.get(line.technician_id or 0, ""), line.start or 0))
    order_ids = list(dict.fromkeys(line.order_id for line in placed))
    if not order_ids:
        raise NotFound("Nothing is planned on that day.", code="nothing_planned")
    return order_ids


def work_orders(*, day: date, technician_id: int | None) -> bytes:
    """The work orders of one technician's day on paper (PDF), at once; those of everybody are printed by the worker.

    Raises
    ------
    NotFound
        When nothing is planned.
    Rejected
        When there are too many to wait for.
    """
    order_ids = work_orders_of(day=day, technician_id=technician_id)
    if len(order_ids) > MOST_ORDERS:
        raise Rejected(f"These are {len(order_ids)} work orders: have them printed in the background.")
    return work_orders_pdf(order_ids)


def _pages(day: date, technician_id: int | None, now: datetime) -> Iterator[dict[str, Any]]:
    tz = time_zone()
    ids = None if technician_id is None else [technician_id]
    placed = placed_on(day, technician_ids=ids)
    persons = [person for person in working_days(day, tz) if technician_id in (None, person.id)]
    days = days_of(persons, placed, tz, day=day)
    rows = {visit.pk: visit for visit in orders.visits_named(line.id for line in placed)}
    for person in persons:
        timetable = evaluate_on(days, person.id, int(now.timestamp()))
        stops = [
            _Row(
                begins=local_time(times.starts, tz), drive=round(times.drive_seconds / 60),
                visit=rows[times.visit_id], promise=_promise(rows[times.visit_id]),
                length=minutes_in_words(times.ends - times.starts),
                crew=rows[times.visit_id].crew if rows[times.visit_id].crew > 1 else 0,
                parts=", ".join(f"{count} × {part}" for part, count in with_names(rows[times.visit_id].takes)),
            )
            for times in timetable.stops
        ]  # fmt: skip
        if stops:
            ends = local_time(timetable.ends, tz) if timetable.ends else ""
            yield {"name": person.name, "depot": person.depot, "stops": stops, "ends": ends}


def _promise(visit: Visit) -> str:
    promise, tz = visit.promise, time_zone()
    return f"{local_time(promise.start, tz)}–{local_time(promise.end, tz)}" if promise else ""

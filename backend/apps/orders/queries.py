"""Reading orders and visits."""

from collections import Counter, defaultdict
from collections.abc import Collection, Iterable
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from uuid import UUID

from django.db.models import F, Q

from apps.company.queries import time_zone
from apps.orders.lines import VisitLine, lines_of
from apps.orders.models import NOT_SETTLED, Assignment, LearnedLength, Visit, VisitEvent, VisitLink
from apps.orders.takings import Taking
from core.basics import Interval, Place
from core.calendars import day_interval, local_day
from core.learning import Learned, OwnPace
from core.orders import Part, Step, VisitState
from core.orders.links import Link, LinkKind
from foundation import audit
from foundation.errors import NotFound
from foundation.models import AuditEntry
from foundation.moments import to_datetime, to_moment


def visit(visit_id: int) -> Visit:
    found = Visit.objects.with_whereabouts().select_related("technician").filter(pk=visit_id).first()
    if found is None:
        raise NotFound("There is no such visit.", code="no_visit")
    return found


def bare_visit(visit_id: int) -> Visit:
    """A visit without what is around it, which is read when it is asked for."""
    found = Visit.objects.filter(pk=visit_id).first()
    if found is None:
        raise NotFound("There is no such visit.", code="no_visit")
    return found


def line(visit_id: int) -> VisitLine:
    """A visit as a line, read in one small query.

    Raises
    ------
    NotFound
    """
    found = next(lines_of(Visit.objects.filter(pk=visit_id)), None)
    if found is None:
        raise NotFound("There is no such visit.", code="no_visit")
    return found


# So many parts are asked for by name; of more, all is read.
MOST_NAMED = 200


def takings(parts: Collection[str] | None = None) -> list[Taking]:
    """Who will take which parts for all visits that are placed and not finished, whenever; of some parts only."""
    rows = Visit.objects.on_somebodys_day().filter(finished_at__isnull=True).exclude(takes={})
    if parts is not None and len(parts) <= MOST_NAMED:
        rows = rows.filter(takes__has_any_keys=list(parts))
    columns = ("pk", "technician_id", "start", "departed_at", "arrived_at", "takes")
    found = []
    for key, technician, start, departed, arrived, takes in rows.values_list(*columns):
        own = takes if parts is None else {part: number for part, number in takes.items() if part in parts}
        if technician is not None and own:
            found.append(
                Taking(
                    visit_id=key, technician_id=technician, start=to_moment(start) or 0,
                    order=to_moment(arrived or departed or start) or 0, takes=own,
                )
            )  # fmt: skip
    return found


def begun(planned: Collection[Taking], *, now: datetime) -> set[tuple[int, date]]:
    """On which days, by technician, somebody has set out: from yesterday on, and on the days of these visits."""
    tz = time_zone()
    yesterday = day_interval(local_day(int(now.timestamp()), tz) - timedelta(days=1), tz).start
    rows = Visit.objects.filter(Q(start__gte=to_datetime(yesterday)) | Q(pk__in=[row.visit_id for row in planned]))
    rows = rows.filter(Q(departed_at__isnull=False) | Q(arrived_at__isnull=False))
    found = rows.values_list("technician_id", "start")
    return {(who, local_day(int(start.timestamp()), tz)) for who, start in found if who is not None and start}


def visits_named(ids: Iterable[int]) -> list[Visit]:
    """These visits whole, with order, customer and site."""
    return list(Visit.objects.with_whereabouts().filter(pk__in=list(ids)))


def visits_within(stretch: Interval, *, technician_ids: Collection[int] | None = None) -> list[VisitLine]:
    """Placed visits that start in a stretch of time, of everybody or of some technicians."""
    rows = Visit.objects.on_somebodys_day().starting_within(stretch)
    if technician_ids is not None:
        ids = list(technician_ids)
        rows = rows.filter(Q(technician_id__in=ids) | Q(mates__overlap=ids))
    return list(lines_of(rows.order_by("start", "id")))


def find_visits(text: str, *, limit: int = 8) -> list[VisitLine]:
    """Visits that are not over, by what is typed: number, job, customer, site, address."""
    rows = Visit.objects.filter(state__in=NOT_SETTLED)
    for word in text.split():
        rows = rows.filter(mentions(word) | Q(order__number__icontains=word))
    return list(lines_of(rows.order_by("-start", "-id")[:limit]))


def open_visits(*, limit: int = 5000) -> list[VisitLine]:
    """The whole backlog, for planning."""
    return list(lines_of(Visit.objects.in_backlog().order_by("priority", "id")[:limit]))


def standby_visits() -> list[VisitLine]:
    """Visits whose customer would come forward, and that have not begun."""
    waiting = [VisitState.OPEN, VisitState.PLACED, VisitState.SENT, VisitState.ACCEPTED]
    return list(lines_of(Visit.objects.filter(standby__isnull=False, state__in=waiting).order_by("id")))


def learned_lengths(job_type_ids: Iterable[int]) -> dict[int, Learned]:
    """What finished visits teach about job types, by their ids."""
    rows = LearnedLength.objects.filter(job_type_id__in=set(job_type_ids))
    return {
        row.job_type_id: Learned(
            mean=row.mean, spread=row.spread, count=row.count,
            own={int(key): OwnPace(seconds=seconds, count=count) for key, (seconds, count) in row.own.items()},
        )
        for row in rows
    }  # fmt: skip


def last_technicians(site_ids: Iterable[int]) -> dict[int, int]:
    """Who finished a visit at each site last."""
    rows = (
        Visit.objects.filter(
            order__site_id__in=set(site_ids),
            state__in=[VisitState.DONE, VisitState.REVIEWED],
            technician__isnull=False,
            finished_at__isnull=False,
        )
        .order_by("order__site_id", "-finished_at")
        .distinct("order__site_id")
        .values_list("order__site_id", "technician_id")
    )
    return {site_id: technician_id for site_id, technician_id in rows if technician_id is not None}


# Weeks of history that say what is to be expected.
EXPECTED_WEEKS = 12


def short_notice_seconds(*, now: datetime, skill: str | None = None) -> dict[tuple[int, str], int]:
    """Work ordered a day before it was done, or on the day: seconds on a usual day, by weekday and area ("": none)."""
    found: dict[tuple[int, str], int] = {}
    for row in short_notice(now=now, skill=skill):
        key = (row.start.astimezone(time_zone()).weekday(), row.area)
        found[key] = found.get(key, 0) + row.seconds
    return {key: seconds // EXPECTED_WEEKS for key, seconds in found.items()}


@dataclass(frozen=True, kw_only=True)
class ShortNotice:
    """A visit that was ordered a day before it was done, or on the day."""

    visit_id: int
    order_id: int
    number: str
    site: str
    area: str
    start: datetime
    seconds: int


def short_notice(*, now: datetime, skill: str | None = None) -> list[ShortNotice]:
    """What came in at short notice during the weeks that experience is taken from, the newest first."""
    rows = Visit.objects.filter(
        start__gte=now - timedelta(weeks=EXPECTED_WEEKS), start__lt=now,
        order__made_at__gt=F("start") - timedelta(days=1), duration_seconds__isnull=False,
    )  # fmt: skip
    if skill is not None:
        rows = rows.filter(needs__has_key=skill)
    columns = (
        "id", "order_id", "order__number", "order__site__name", "order__site__area__name", "start", "duration_seconds"
    )  # fmt: skip
    return [
        ShortNotice(
            visit_id=key, order_id=order, number=number, site=site, area=area or "", start=start, seconds=seconds or 0
        )
        for key, order, number, site, area, start, seconds in rows.order_by("-start", "-id").values_list(*columns)
        if start is not None
    ]


def links_of(visit_ids: Collection[int]) -> list[Link]:
    """The ties that one of these visits is an end of."""
    ids = list(visit_ids)
    columns = ("id", "kind", "first_id", "second_id", "least", "greatest")
    # Each end by its own index: "one or the other" would compare every link with every visit.
    ends = (VisitLink.objects.filter(first__in=ids), VisitLink.objects.filter(second__in=ids))
    rows = sorted({row for end in ends for row in end.values_list(*columns)})
    return [
        Link(kind=LinkKind(kind), first=first, second=second, least=least, greatest=greatest)
        for _id, kind, first, second, least, greatest in rows
    ]


def lines_named(visit_ids: Collection[int]) -> list[VisitLine]:
    """These visits, wherever they are."""
    return list(lines_of(Visit.objects.filter(pk__in=visit_ids))) if visit_ids else []


def last_phone_places(*, since: datetime) -> dict[int, tuple[Place, int]]:
    """By technician: where the phone was when they stamped last, and when."""
    rows = VisitEvent.objects.filter(happened_at__gte=since, lon__isnull=False, technician__isnull=False)
    columns = ("technician_id", "lon", "lat", "happened_at")
    return {
        key: (Place(lon, lat), int(at.timestamp()))
        for key, lon, lat, at in rows.order_by("happened_at", "id").values_list(*columns)
        if key is not None and lon is not None and lat is not None
    }


def went_together(*, since: datetime, least: int) -> list[tuple[tuple[int, ...], int]]:
    """Groups of technicians (ids in order) who finished visits together at least so often, the most frequent first."""
    rows = Visit.objects.filter(
        finished_at__gte=since, technician__isnull=False,
    ).exclude(mates=[]).values_list("technician_id", "mates")  # fmt: skip
    counts = Counter(tuple(sorted({key, *mates})) for key, mates in rows if key is not None)
    return [(group, count) for group, count in counts.most_common() if count >= least]


# Shorter, half of all numbers would hold it.
PART_OF_NUMBER = 3


def mentions(word: str) -> Q:
    """What a word can be found in: title, customer, site, address, area; or the number, of which three signs do."""
    found = (
        Q(order__title__icontains=word)
        | Q(order__customer__name__icontains=word)
        | Q(order__site__name__icontains=word)
        | Q(order__site__address__icontains=word)
        | Q(order__site__area__name__icontains=word)
    )
    part = len(word) >= PART_OF_NUMBER and any(sign.isdigit() for sign in word)
    return found | (Q(order__number__icontains=word) if part else Q(order__number__iexact=word))


def sent_before(visit_ids: Collection[int]) -> set[int]:
    """Those of these visits that were sent once already."""
    rows = VisitEvent.objects.filter(visit_id__in=visit_ids, step=Step.SEND)
    return set(rows.values_list("visit_id", flat=True))


def declines_of(visit_ids: Collection[int]) -> dict[int, VisitEvent]:
    """By visit the event with which it was declined last, unless it was placed again since."""
    rows = VisitEvent.objects.filter(visit_id__in=visit_ids, step__in=[Step.DECLINE, Step.PLACE])
    last = rows.order_by("visit_id", "-id").distinct("visit_id")
    return {row.visit_id: row for row in last if row.step == Step.DECLINE}


def visit_events(visit_id: int) -> list[VisitEvent]:
    """What happened to a visit, in the order in which it did."""
    return list(VisitEvent.objects.filter(visit_id=visit_id).order_by("happened_at", "id"))


def assignments(visit_id: int) -> list[Assignment]:
    """Who goes to a visit and what each of them did, whoever leads first."""
    rows = Assignment.objects.filter(visit_id=visit_id).select_related("technician")
    return list(rows.order_by("-leads", "technician__name"))


def own_parts(visit_ids: Collection[int], technician_id: int) -> dict[int, Part]:
    """How far a technician is with visits, by visit; those they do not go to are left out."""
    rows = Assignment.objects.filter(visit_id__in=visit_ids, technician_id=technician_id)
    return {row.visit_id: row.part for row in rows}


def event_keys(visit_ids: Collection[int]) -> dict[int, list[UUID]]:
    """The names of what happened, by visit."""
    found: defaultdict[int, list[UUID]] = defaultdict(list)
    for visit_id, key in VisitEvent.objects.filter(visit_id__in=visit_ids).values_list("visit_id", "key"):
        found[visit_id].append(key)
    return found


def goes_along(visit_id: int, technician_id: int) -> bool:
    return Assignment.objects.filter(visit_id=visit_id, technician_id=technician_id, leads=False).exists()


def history(visit_id: int) -> list[AuditEntry]:
    return audit.latest("visit", visit_id)

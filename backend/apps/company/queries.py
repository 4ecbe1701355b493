"""Reading the company."""

import time
from dataclasses import dataclass
from datetime import date
from functools import lru_cache
from zoneinfo import ZoneInfo

from django.db.models import TextField
from django.db.models.functions import MD5, Cast

from apps.company.models import Area, Company, Depot, Holiday, Logo, RecordFields, Tag
from core.basics import Place
from core.calendars import use, zone
from core.company import Settings, settings_from
from core.company import public_holidays as public_holidays_of
from core.forms import Question, questions_from
from core.roads import AreaIndex
from foundation.errors import NotFound, Rejected
from foundation.named import keys_by_name, names


def company() -> Company:
    found = Company.objects.order_by("id").first()
    if found is None:
        raise NotFound("There is no company yet.", code="no_company")
    return found


# The zone, and how days and times are said, hardly ever change; asked for several times in every request.
ZONE_KNOWN_SECONDS = 20
_zone: tuple[float, ZoneInfo] | None = None


def time_zone() -> ZoneInfo:
    """The company's; known for a moment once it was read. With it comes how days and times are said."""
    global _zone
    if _zone is None or time.monotonic() - _zone[0] > ZONE_KNOWN_SECONDS:
        found = company()
        _zone = (time.monotonic(), zone(found.time_zone))
        use(settings_from(found.settings).style)
    return _zone[1]


def forget_zone() -> None:
    """Read the zone and the style anew: one was changed."""
    global _zone
    _zone = None


def logo_mark() -> str:
    """Changes with the company's logo; empty: there is none."""
    return Logo.objects.values_list("mark", flat=True).first() or ""


def logo() -> bytes:
    """The company's logo, as PNG.

    Raises
    ------
    NotFound
    """
    found = Logo.objects.values_list("content", flat=True).first()
    if found is None:
        raise NotFound("There is no logo.", code="no_logo")
    return bytes(found)


def settings() -> Settings:
    """The company's settings; the defaults where it has set nothing."""
    stored = Company.objects.order_by("id").values_list("settings", flat=True).first()
    return settings_from(stored or {})


def record_fields(record: str) -> tuple[Question, ...]:
    """The fields the company has added to "customer", "site", "asset" or "order"; what it asks of a "vehicle"."""
    stored = RecordFields.objects.filter(record=record).values_list("questions", flat=True).first()
    return questions_from(stored or [])


def all_record_fields() -> dict[str, tuple[int, tuple[Question, ...]]]:
    """Version and fields, by kind of record."""
    rows = {row.record: row for row in RecordFields.objects.all()}
    return {
        record: (rows[record].version, questions_from(rows[record].questions)) if record in rows else (0, ())
        for record in RecordFields.RECORDS
    }


def areas() -> list[Area]:
    return list(Area.objects.order_by("name"))


def area_name(area_id: int) -> str:
    """What an area on the map is called."""
    found = Area.objects.filter(pk=area_id).values_list("name", flat=True).first()
    if found is None:
        raise NotFound("There is no such area (any more).", code="no_area")
    return found


def tag_names() -> dict[str, str]:
    """What each tag is called, by its key."""
    return names(Tag)


def tag_keys() -> dict[str, str]:
    """Key of each tag, by its name in small letters."""
    return keys_by_name(Tag)


def depots() -> list[Depot]:
    return list(Depot.objects.order_by("name"))


def area_at(place: Place) -> Area | None:
    """The smallest area that holds the place."""
    rows = tuple(Area.objects.order_by("id").annotate(mark=MD5(Cast("polygon", TextField()))).values_list("id", "mark"))
    key = _index(rows).at(place)
    return Area.objects.get(pk=int(key)) if key else None


@lru_cache(maxsize=2)
def _index(rows: tuple[tuple[int, str], ...]) -> AreaIndex:
    """Kept for the areas as they are: other outlines are another index. By key, as a name may change."""
    found = Area.objects.filter(id__in=[row[0] for row in rows]).values_list("id", "polygon")
    return AreaIndex({str(key): polygon for key, polygon in found})


def holidays_between(first: date, last: date) -> dict[date, str]:
    """Names of the days off from the first day to the last, both counted."""
    return dict(Holiday.objects.filter(day__range=(first, last)).values_list("day", "name"))


def holidays(*, since: date) -> list[Holiday]:
    return list(Holiday.objects.filter(day__gte=since).order_by("day"))


@dataclass(frozen=True)
class PublicHoliday:
    """A public holiday somewhere; `is_ours`: the company has that day off already."""

    day: date
    name: str
    is_ours: bool


def public_holidays(country: str, region: str, year: int) -> list[PublicHoliday]:
    """A country's public holidays, and which of them the company has.

    Raises
    ------
    Rejected
        When they are not known.
    """
    try:
        found = public_holidays_of(country, region, year)
    except ValueError as error:
        raise Rejected(f"{error}.".capitalize(), field="country") from error
    ours = holidays_between(date(year, 1, 1), date(year, 12, 31))
    return [PublicHoliday(day=day, name=name, is_ours=day in ours) for day, name in found]

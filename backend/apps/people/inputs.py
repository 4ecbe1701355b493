"""What commands of people take."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, time
from decimal import Decimal

from core.basics import Place

# More weeks in turn nobody plans by.
MOST_WEEKS = 8


@dataclass(frozen=True, kw_only=True)
class TechnicianFields:
    """What can be edited on a technician besides working hours. `skills` is a level (1-5) by key; no area:
    everywhere."""

    name: str
    phone: str = ""
    email: str = ""
    depot_id: int
    area_ids: Sequence[int] = ()
    skills: Mapping[str, int] = field(default_factory=dict)


@dataclass(frozen=True, kw_only=True)
class TermsFields:
    """How somebody works: where the day begins and ends, with what, at which cost an hour (in the company's currency),
    and what they like and would rather not do. Kinds of work are known by the skills they need."""

    home_address: str = ""
    home: Place | None = None
    starts_at_home: bool = False
    ends_at_home: bool = False
    vehicle: str | None = None
    cost_per_hour: Decimal | None = None
    holiday_days: int | None = None
    liked_skills: Sequence[str] = ()
    avoided_skills: Sequence[str] = ()
    liked_areas: Sequence[int] = ()
    avoided_areas: Sequence[int] = ()


@dataclass(frozen=True, kw_only=True)
class VehicleFields:
    """What is known of a vehicle besides its name; the cost of a kilometre in the company's currency."""

    plate: str = ""
    depot_id: int | None = None
    inspection_due: date | None = None
    cost_per_km: Decimal | None = None


@dataclass(frozen=True, kw_only=True)
class ShiftFields:
    """The shift of one weekday (0 = Monday), in wall-clock times. An end at or before the start is the next day's.

    `rest_minutes` of break lie between `rest_earliest` and `rest_latest`; in the gap of a split shift nobody works.
    From the end until `on_call_until` they are on call; start and end the same: on call only. `week` is which of the
    weeks in turn it is in (0: the first).
    """

    weekday: int
    start: time
    end: time
    rest_earliest: time | None = None
    rest_latest: time | None = None
    rest_minutes: int = 0
    overtime_minutes: int = 0
    gap_start: time | None = None
    gap_end: time | None = None
    on_call_until: time | None = None
    week: int = 0


@dataclass(frozen=True, kw_only=True)
class CertificateFields:
    """A certificate somebody holds: the key of its kind, its number, its last day (None: for good), and the file of the
    paper itself."""

    code: str
    number: str = ""
    valid_until: date | None = None
    file_id: int | None = None

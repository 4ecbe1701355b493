"""What commands of people take."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, time


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
class ShiftFields:
    """The shift of one weekday (0 = Monday), in wall-clock times. An end at or before the start is the next day's.

    `rest_minutes` of break lie between `rest_earliest` and `rest_latest`; in the gap of a split shift nobody works.
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


@dataclass(frozen=True, kw_only=True)
class CertificateFields:
    """A certificate somebody holds: the key of its kind, its number, and its last day; None: for good."""

    code: str
    number: str = ""
    valid_until: date | None = None

"""Wire shapes of the board. All times are epoch seconds (UTC)."""

from collections.abc import Mapping, Sequence
from datetime import date
from typing import Annotated, Any, Literal

from ninja import Field, Schema

from apps.board.directions import Drive
from apps.board.filling import Filling
from apps.board.models import Reminder
from apps.board.queries import Board, Reminders
from apps.board.why_here import WhyHere
from apps.intake.schemas import PromiseOut
from apps.orders.backlog import BacklogFilters
from apps.orders.schemas import HistoryOut, VisitOut, visit_fields
from apps.people.models import Certificate
from apps.people.schemas import AbsenceOut
from apps.people.working_days import WorkingDay
from apps.scheduling.horizon import FIRST_DAY, LAST_DAY
from apps.scheduling.schedule import Lane, LaneDay, findings, safety, times_of
from apps.scheduling.schemas import TimetableOut, WhyOut, timetable_out
from core.basics import Interval, Place
from core.orders import VisitState
from core.scheduling import Lamp, Limit, Workload
from core.scheduling.evaluation.findings import Finding
from foundation.schemas import Text

Id = Annotated[int, Field(ge=1, le=2**62)]


class HoursOut(Schema):
    start: int
    end: int


class ShiftOut(Schema):
    """`gap`: when nobody works, in a split shift; `on_call`: after it, for work of priority 1 only."""

    start: int
    end: int
    gap: HoursOut | None
    on_call: HoursOut | None


class CertificateOut(Schema):
    """`valid_until` is the last day; null: for good."""

    name: str
    number: str
    valid_until: date | None


class LaneHeadOut(Schema):
    """A technician as the head of a line."""

    technician_id: int
    name: str
    phone: str
    email: str
    certificates: list[CertificateOut]
    depot: str
    skills: dict[str, int]
    areas: list[str]


class ReminderOut(Schema):
    id: int
    version: int
    at: int
    text: str
    by: str
    done: bool


class WorkloadOut(Schema):
    """Seconds. `left` is what is still free, `gaps` the stretches worth filling."""

    working: int
    left: int
    share: float
    gaps: list[HoursOut]


class LaneDayOut(Schema):
    """A technician's day, from midnight (`start`) to midnight. `holiday` is its name, or empty."""

    day: date
    start: int
    end: int
    shift: ShiftOut | None
    absences: list[AbsenceOut]
    holiday: str
    reminders: list[ReminderOut]
    timetable: TimetableOut
    workload: WorkloadOut


class LaneOut(Schema):
    """A technician's days; who that is, the heads say."""

    technician_id: int
    days: list[LaneDayOut]


class BoardVisitOut(VisitOut):
    """`expected_start` and `expected_end` come from the evaluator; they differ from the plan when the day slips."""

    lamp: Lamp
    likelihood: float | None
    expected_start: int | None
    expected_end: int | None
    linked: bool


class FindingOut(Schema):
    """A limit that does not hold, at a visit or on a technician's day; `key` is the same wherever it is found."""

    key: str
    limit: Limit
    visit_id: int | None
    technician_id: int
    day: date
    sentence: str
    why: WhyOut


class BoardOut(Schema):
    """`days` days from `day` on. `findings`: the limits that do not hold on them, each once."""

    day: date
    days: int
    start: int
    end: int
    now: int
    lanes: list[LaneOut]
    visits: list[BoardVisitOut]
    findings: list[FindingOut]


class BacklogVisitOut(VisitOut):
    """`reasons`: nobody (promised, no technician), declined, overdue, no duration, standby, unplaced."""

    reasons: list[str]


class BacklogOut(Schema):
    total: int
    visits: list[BacklogVisitOut]


class BacklogIn(Schema):
    """Filters of the backlog; what is left out is not asked for."""

    text: Text = Field("", max_length=200)
    priorities: list[Annotated[int, Field(ge=1, le=5)]] = Field(default_factory=list, max_length=5)
    area_ids: list[Id] = Field(default_factory=list, max_length=100)
    job_type_ids: list[Annotated[int, Field(ge=1, le=2**62)]] = Field(default_factory=list, max_length=100)
    skill: Text = Field("", max_length=60)
    states: list[VisitState] = Field(default_factory=list, max_length=12)
    due_by: Annotated[date, Field(ge=FIRST_DAY, le=LAST_DAY)] | None = None
    tag: Text = Field("", max_length=40)
    customer_id: int | None = Field(None, ge=1, le=2**62)
    unpromised: bool = False
    lon: float | None = Field(None, ge=-180, le=180)
    lat: float | None = Field(None, ge=-90, le=90)
    metres: int | None = Field(None, ge=1, le=1_000_000)
    extra: dict[Text, Text | float | bool] = Field(default_factory=dict, max_length=20)
    sort: str = Field("pressing", max_length=20)

    def filters(self) -> BacklogFilters:
        near = Place(self.lon, self.lat) if self.lon is not None and self.lat is not None else None
        return BacklogFilters(
            text=self.text, priorities=tuple(self.priorities), area_ids=tuple(self.area_ids),
            job_type_ids=tuple(self.job_type_ids), skill=self.skill, states=tuple(self.states),
            due_by=self.due_by, tag=self.tag, customer_id=self.customer_id, unpromised=self.unpromised, near=near,
            metres=self.metres, extra=self.extra,
        )  # fmt: skip


def board_out(board: Board) -> dict[str, Any]:
    """The fields of BoardOut, as plain values: a large board has thousands of them."""
    shown = board.schedule
    safe = safety(shown)
    times = times_of(shown.lanes)
    visits = []
    for visit in shown.visits:
        expected = times.get(visit.id)
        visits.append(
            visit_fields(visit)
            | {
                "lamp": safe[visit.id][0],
                "likelihood": _rounded(safe[visit.id][1]),
                "expected_start": expected.starts if expected else None,
                "expected_end": expected.ends if expected else None,
                "linked": visit.id in shown.linked,
            }
        )
    return {
        "day": shown.first,
        "days": shown.days,
        "start": shown.hours.start,
        "end": shown.hours.end,
        "now": shown.now,
        "lanes": [_lane(lane, board.reminders) for lane in shown.lanes],
        "visits": visits,
        "findings": [finding_out(row) for row in findings(shown)],
    }


def finding_out(row: Finding) -> dict[str, Any]:
    """The fields of FindingOut."""
    return {
        "key": row.key, "limit": row.limit, "visit_id": row.visit_id, "technician_id": row.technician_id,
        "day": row.day, "sentence": str(row.why), "why": row.why.as_json(),
    }  # fmt: skip


def lane_head(technician: WorkingDay, certificates: Sequence[Certificate]) -> dict[str, Any]:
    """The fields of LaneHeadOut."""
    return {
        "technician_id": technician.id,
        "name": technician.name,
        "phone": technician.phone,
        "email": technician.email,
        "certificates": [
            {"name": row.kind.name, "number": row.number, "valid_until": row.valid_until} for row in certificates
        ],
        "depot": technician.depot,
        "skills": dict(technician.spec.skills),
        "areas": sorted(technician.spec.areas),
    }


def _lane(lane: Lane, reminders: Reminders) -> dict[str, Any]:
    key = lane.technician.id
    return {"technician_id": key, "days": [_lane_day(row, reminders.get((key, row.date), ())) for row in lane.days]}


def _hours(stretch: Interval | None) -> dict[str, int] | None:
    return None if stretch is None else {"start": stretch.start, "end": stretch.end}


def _lane_day(row: LaneDay, reminders: Sequence[Reminder]) -> dict[str, Any]:
    shift = row.day.shift
    hours = None
    if shift is not None:
        hours = {
            "start": shift.hours.start, "end": shift.hours.end, "gap": _hours(shift.gap),
            "on_call": _hours(shift.on_call),
        }  # fmt: skip
    return {
        "day": row.date,
        "start": row.hours.start,
        "end": row.hours.end,
        "shift": hours,
        "absences": [
            {"id": away.id, "start": away.hours.start, "end": away.hours.end, "reason": away.reason}
            for away in row.away
        ],
        "holiday": row.holiday,
        "reminders": [reminder_out(reminder) for reminder in reminders],
        "timetable": timetable_out(row.timetable),
        "workload": {
            "working": row.workload.working, "left": row.workload.left, "share": row.workload.share,
            "gaps": [{"start": gap.start, "end": gap.end} for gap in row.workload.gaps],
        },
    }  # fmt: skip


def reminder_out(row: Reminder) -> dict[str, Any]:
    """The fields of ReminderOut."""
    return {
        "id": row.pk, "version": row.version, "at": int(row.at.timestamp()), "text": row.text, "by": row.made_by,
        "done": row.done_at is not None,
    }  # fmt: skip


def _rounded(likelihood: float | None) -> float | None:
    return None if likelihood is None else round(likelihood, 2)


class FillerOut(Schema):
    """Something that fits into a gap at `start`."""

    visit: VisitOut
    start: int
    extra_drive_seconds: int
    drive_seconds: int
    reasons: list[str]
    standby: bool


class GapOut(Schema):
    technician_id: int
    start: int
    end: int
    fillers: list[FillerOut]


class DayWorkloadOut(Schema):
    """Seconds; `left` is what is still free."""

    date: date
    working: int
    left: int
    work: int
    drive: int
    overtime: int
    visits: int
    share: float


class LoadOut(Schema):
    technician_id: int
    name: str
    days: list[DayWorkloadOut]


class MatterOut(Schema):
    """Something to look at now; `key` stays the same as long as the matter does."""

    kind: Literal["declined", "nobody", "broken"]
    key: str
    visit_id: int
    label: str
    sentence: str


class CalendarLinkOut(Schema):
    """`path` is None while the calendar is closed."""

    path: str | None


class LegOut(Schema):
    """A drive along the road; `visit_id` is where it leads, null is home. Points are longitude, latitude."""

    visit_id: int | None
    seconds: int
    estimated: bool
    points: list[tuple[float, float]]


class RoundOut(Schema):
    technician_id: int
    legs: list[LegOut]


class SeenOut(Schema):
    technician_id: int
    name: str
    lon: float
    lat: float
    at: int | None
    doing: str


def gap_out(technician_id: int, found: Filling) -> dict[str, Any]:
    return {
        "technician_id": technician_id, "start": found.gap.start, "end": found.gap.end,
        "fillers": [
            {
                "visit": visit_fields(row.visit), "start": row.start, "extra_drive_seconds": row.extra_drive_seconds,
                "drive_seconds": row.drive_seconds, "reasons": list(row.reasons), "standby": row.standby,
            }
            for row in found.fillers
        ],
    }  # fmt: skip


def load_out(technician_id: int, name: str, days: Mapping[date, Workload]) -> dict[str, Any]:
    rows = [
        {
            "date": day, "working": load.working, "left": load.left, "work": load.work, "drive": load.drive,
            "overtime": load.overtime, "visits": load.visits, "share": round(load.share, 3),
        }
        for day, load in days.items()
    ]  # fmt: skip
    return {"technician_id": technician_id, "name": name, "days": rows}


def round_out(technician_id: int, drives: list[Drive]) -> dict[str, Any]:
    legs = [
        {"visit_id": row.visit_id, "seconds": row.seconds, "estimated": row.estimated, "points": row.points}
        for row in drives
    ]
    return {"technician_id": technician_id, "legs": legs}


class DecidedOut(HistoryOut):
    """Who put a visit where it is, when, in which words, and why."""


class WhyHereOut(Schema):
    """Sentences: what speaks for it there, and how far it could go either way. `likely` is when it begins in eight
    of ten plays of the day; None once it has begun."""

    decided: DecidedOut | None
    reasons: list[str]
    slips: list[str]
    likely: PromiseOut | None


def why_here_out(found: WhyHere) -> dict[str, Any]:
    return {
        "decided": DecidedOut.of(found.decided) if found.decided else None,
        "reasons": list(found.reasons), "slips": list(found.slips),
        "likely": {"start": found.likely.start, "end": found.likely.end} if found.likely else None,
    }  # fmt: skip

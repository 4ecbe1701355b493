"""Wire shapes of planning. All times are epoch seconds (UTC)."""

from collections.abc import Sequence
from datetime import date
from typing import Annotated, Any, Literal

from ninja import Field, Schema

from apps.intake.schemas import PromiseOut
from apps.orders.backlog import BacklogFilters
from apps.orders.schemas import Version, VisitOut, visit_fields
from apps.people.models import Certificate
from apps.people.schemas import AbsenceOut
from apps.people.working_days import WorkingDay
from apps.planning.horizon import FIRST_DAY, LAST_DAY
from apps.planning.models import Reminder
from apps.planning.queries import Board, Lane, LaneDay, findings, safety, times_of
from apps.planning.settling import How
from core.basics import Place
from core.orders import Step, VisitState
from core.planning import Kind, Lamp, Limit, Timetable, Verdict
from core.planning.findings import Finding
from foundation.moments import Moment
from foundation.schemas import Text


class StretchOut(Schema):
    kind: Kind
    start: int
    end: int
    visit_id: int | None
    metres: int
    estimated: bool


class BrokenOut(Schema):
    limit: Limit
    visit_id: int | None
    sentence: str


class TimetableOut(Schema):
    """`overtime` is the part of the day past the end of the shift."""

    stretches: list[StretchOut]
    broken: list[BrokenOut]
    overtime: PromiseOut | None
    drive_seconds: int
    work_seconds: int
    ends: int | None


class ShiftOut(Schema):
    start: int
    end: int
    last_end: int


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


class StretchFreeOut(Schema):
    start: int
    end: int


class WorkloadOut(Schema):
    """Seconds; see core.planning.workload. `left` is what is still free, `gaps` the stretches worth filling."""

    working: int
    left: int
    share: float
    gaps: list[StretchFreeOut]


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
    areas: list[Annotated[Text, Field(max_length=60)]] = Field(default_factory=list, max_length=100)
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
            text=self.text, priorities=tuple(self.priorities), areas=tuple(self.areas),
            job_type_ids=tuple(self.job_type_ids), skill=self.skill, states=tuple(self.states),
            due_by=self.due_by, tag=self.tag, customer_id=self.customer_id, unpromised=self.unpromised, near=near,
            metres=self.metres, extra=self.extra,
        )  # fmt: skip


class ReasonOut(Schema):
    weight: Literal["good", "note", "warns", "asks", "refuses"]
    sentence: str
    limit: Limit | None


class VerdictOut(Schema):
    """What a placement would mean; `timetable` is the technician's day with it."""

    allowed: bool
    reasons: list[ReasonOut]
    timetable: TimetableOut
    extra_drive_seconds: int


class FitOut(Schema):
    technician_id: int
    reasons: list[str]


class PlacementIn(Schema):
    technician_id: int = Field(ge=1, le=2**62)
    start: Moment


class PlaceIn(PlacementIn):
    """`mates` go with the technician; left out: those who go already. `because`: why, where a limit asks for it."""

    version: int = Version
    because: Text = Field("", max_length=300)
    mates: list[Annotated[int, Field(ge=1, le=2**62)]] | None = Field(None, max_length=7)


class JudgeIn(PlacementIn):
    """`mates` go with the technician; left out: those who go already."""

    visit_id: int = Field(ge=1, le=2**62)
    mates: list[Annotated[int, Field(ge=1, le=2**62)]] | None = Field(None, max_length=7)


class VersionIn(Schema):
    version: int = Version


class StepIn(VersionIn):
    step: Step
    note: Text = Field("", max_length=1000)
    # For "cancel": what the customer reads of it. The note is ours.
    tell: Text = Field("", max_length=600)


class PlacedOut(Schema):
    visit: VisitOut
    verdict: VerdictOut


class SendIn(VersionIn):
    """`how` settles the promise of a visit that stands on another day: see apps.planning.settling."""

    how: How | None = None


class SettledIn(Schema):
    visit_id: int = Field(ge=1, le=2**62)
    how: How


class SendDayIn(Schema):
    """Some days, of everybody or of one technician; `settled`: those that stand on another day than promised."""

    day: date
    days: int = Field(1, ge=1, le=14)
    technician_id: int | None = Field(None, ge=1, le=2**62)
    settled: list[SettledIn] = Field(default_factory=list, max_length=500)


class SentOut(Schema):
    """Visits sent, those whose customers are asked first, and those left because their promise is not settled."""

    sent: int
    asked: int
    left: int


class UndoIn(Schema):
    change_id: int | None = Field(None, ge=1, le=2**62)


class UndoneOut(Schema):
    """`visit` is what was put back, if it was a visit."""

    visit: VisitOut | None
    sentence: str


class ChangeOut(Schema):
    """`step` is the same for changes that go back together."""

    id: int
    at: int
    sentence: str
    visit_id: int | None
    step: int | None


class ChangesOut(Schema):
    """One's own changes: what can be undone, newest first; and what can be done again, the next one first."""

    undo: list[ChangeOut]
    redo: list[ChangeOut]


def timetable_out(timetable: Timetable) -> dict[str, Any]:
    """The fields of TimetableOut."""
    return {
        "stretches": [
            {
                "kind": stretch.kind, "start": stretch.start, "end": stretch.end, "visit_id": stretch.visit_id,
                "metres": stretch.metres, "estimated": stretch.estimated,
            }
            for stretch in timetable.stretches
        ],
        "broken": [
            {"limit": broken.limit, "visit_id": broken.visit_id, "sentence": broken.sentence}
            for broken in timetable.broken
        ],
        "overtime": _interval(timetable.overtime),
        "drive_seconds": timetable.total(Kind.DRIVE),
        "work_seconds": timetable.total(Kind.WORK),
        "ends": timetable.ends,
    }  # fmt: skip


def reasons_out(verdict: Verdict) -> list[dict[str, Any]]:
    return [{"weight": reason.weight, "sentence": reason.sentence, "limit": reason.limit} for reason in verdict.reasons]


def verdict_out(verdict: Verdict) -> dict[str, Any]:
    return {
        "allowed": verdict.allowed,
        "reasons": reasons_out(verdict),
        "timetable": timetable_out(verdict.timetable),
        "extra_drive_seconds": verdict.extra_drive_seconds,
    }


def board_out(board: Board) -> dict[str, Any]:
    """The fields of BoardOut, as plain values: a large board has thousands of them."""
    safe = safety(board)
    times = times_of(board.lanes)
    visits = []
    for visit in board.visits:
        expected = times.get(visit.id)
        visits.append(
            visit_fields(visit)
            | {
                "lamp": safe[visit.id][0],
                "likelihood": _rounded(safe[visit.id][1]),
                "expected_start": expected.starts if expected else None,
                "expected_end": expected.ends if expected else None,
                "linked": visit.id in board.linked,
            }
        )
    return {
        "day": board.first,
        "days": board.days,
        "start": board.hours.start,
        "end": board.hours.end,
        "now": board.now,
        "lanes": [_lane(lane) for lane in board.lanes],
        "visits": visits,
        "findings": [finding_out(row) for row in findings(board)],
    }


def finding_out(row: Finding) -> dict[str, Any]:
    """The fields of FindingOut."""
    return {
        "key": row.key, "limit": row.limit, "visit_id": row.visit_id, "technician_id": row.technician_id,
        "day": row.day, "sentence": row.sentence,
    }  # fmt: skip


def lane_head(technician: WorkingDay, certificates: Sequence[Certificate]) -> dict[str, Any]:
    """The fields of LaneHeadOut."""
    return {
        "technician_id": technician.id,
        "name": technician.name,
        "phone": technician.phone,
        "email": technician.email,
        "certificates": [
            {"name": row.name, "number": row.number, "valid_until": row.valid_until} for row in certificates
        ],
        "depot": technician.depot,
        "skills": dict(technician.spec.skills),
        "areas": sorted(technician.spec.areas),
    }


def _lane(lane: Lane) -> dict[str, Any]:
    return {"technician_id": lane.technician.id, "days": [_lane_day(row) for row in lane.days]}


def _lane_day(row: LaneDay) -> dict[str, Any]:
    shift = row.day.shift
    hours = {"start": shift.hours.start, "end": shift.hours.end, "last_end": shift.last_end} if shift else None
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
        "reminders": [reminder_out(reminder) for reminder in row.reminders],
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


def _interval(interval: Any) -> dict[str, int] | None:
    return None if interval is None else {"start": interval.start, "end": interval.end}


def _rounded(likelihood: float | None) -> float | None:
    return None if likelihood is None else round(likelihood, 2)

"""Wire shapes of timetables and of what a placement would mean. Times are epoch seconds (UTC)."""

from typing import Annotated, Any, Literal

from ninja import Field, Schema

from apps.intake.schemas import PromiseOut
from core.scheduling import Kind, Limit, Timetable, Verdict
from core.scheduling.model.reasons import Code
from foundation.moments import Moment


class StretchOut(Schema):
    kind: Kind
    start: int
    end: int
    visit_id: int | None
    metres: int
    estimated: bool


class WhyOut(Schema):
    """A reason as data: what it is, and of whom and how much. Lengths and moments are in seconds; a reason that is
    about somebody else holds the reason itself."""

    code: Code
    given: dict[str, Any]


class BrokenOut(Schema):
    limit: Limit
    visit_id: int | None
    sentence: str
    why: WhyOut


class TimetableOut(Schema):
    """`overtime` is the part of the day past the end of the shift."""

    stretches: list[StretchOut]
    broken: list[BrokenOut]
    overtime: PromiseOut | None
    drive_seconds: int
    work_seconds: int
    ends: int | None


class ReasonOut(Schema):
    weight: Literal["good", "note", "warns", "asks", "refuses"]
    sentence: str
    why: WhyOut
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


class JudgeIn(PlacementIn):
    """`mates` go with the technician; left out: those who go already."""

    visit_id: int = Field(ge=1, le=2**62)
    mates: list[Annotated[int, Field(ge=1, le=2**62)]] | None = Field(None, max_length=7)


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
            {
                "limit": broken.limit, "visit_id": broken.visit_id, "sentence": broken.sentence,
                "why": broken.why.as_json(),
            }
            for broken in timetable.broken
        ],
        "overtime": _interval(timetable.overtime),
        "drive_seconds": timetable.total(Kind.DRIVE),
        "work_seconds": timetable.total(Kind.WORK),
        "ends": timetable.ends,
    }  # fmt: skip


def reasons_out(verdict: Verdict) -> list[dict[str, Any]]:
    return [
        {
            "weight": reason.weight, "sentence": reason.sentence, "why": reason.why.as_json(), "limit": reason.limit,
        }
        for reason in verdict.reasons
    ]  # fmt: skip


def verdict_out(verdict: Verdict) -> dict[str, Any]:
    return {
        "allowed": verdict.allowed,
        "reasons": reasons_out(verdict),
        "timetable": timetable_out(verdict.timetable),
        "extra_drive_seconds": verdict.extra_drive_seconds,
    }


def _interval(interval: Any) -> dict[str, int] | None:
    return None if interval is None else {"start": interval.start, "end": interval.end}

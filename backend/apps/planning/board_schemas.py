"""Wire shapes of what is done to many visits, of gaps, and of urgent work. Times are epoch seconds."""

from collections.abc import Mapping
from dataclasses import asdict
from datetime import date
from typing import Annotated, Any, Literal

from ninja import Field, Schema

from apps.intake.schemas import PromiseOut
from apps.orders.schemas import HistoryOut, Version, VisitOut, visit_fields
from apps.planning.commands import Move, Outcome, Wanted
from apps.planning.directions import Drive
from apps.planning.filling import Filler
from apps.planning.schemas import ReasonOut, reasons_out
from apps.planning.urgent import Decision, GivesWay, Rescuer
from apps.planning.why_here import WhyHere
from core.basics import Interval
from core.planning import Workload
from foundation.moments import Moment
from foundation.schemas import Text

Id = Annotated[int, Field(ge=1, le=2**62)]


class FirstIn(Schema):
    """The first time that fits on somebody's day."""

    version: int = Version
    technician_id: Id
    day: date


class StretchIn(Schema):
    version: int = Version
    seconds: int = Field(ge=60, le=24 * 3600)


class ForwardIn(Schema):
    version: int = Version
    technician_id: Id
    start: Moment


class MoveIn(Schema):
    """Where a visit goes that gives way; without a technician: back to the backlog."""

    visit_id: Id
    version: int = Version
    technician_id: Id | None = None
    start: Moment | None = None

    def known(self) -> Move:
        return Move(**self.dict())


class GiveIn(Schema):
    """`moves`: what gives way, decided with it."""

    version: int = Version
    technician_id: Id
    start: Moment
    because: Text = Field("", max_length=300)
    moves: list[MoveIn] = Field(default_factory=list, max_length=20)


class VisitSeenIn(Schema):
    id: Id
    version: int = Version


class BulkIn(Schema):
    """What is to be done to many visits; see commands.Wanted. With `preview` nothing changes."""

    visits: list[VisitSeenIn] = Field(min_length=1, max_length=200)
    kind: Literal["day", "give", "shift", "unplace", "cancel", "send", "lock", "unlock"]
    day: date | None = None
    technician_id: Id | None = None
    seconds: int = Field(0, ge=-14 * 86_400, le=14 * 86_400)
    because: Text = Field("", max_length=300)
    tell: Text = Field("", max_length=300)
    preview: bool = False

    def wanted(self) -> Wanted:
        return Wanted(
            kind=self.kind, day=self.day, technician_id=self.technician_id, seconds=self.seconds, because=self.because,
            tell=self.tell,
        )  # fmt: skip


class OutcomeOut(Schema):
    visit_id: int
    label: str
    sentence: str
    problem: str
    asks: bool
    warnings: list[str]


class BulkOut(Schema):
    done: int
    outcomes: list[OutcomeOut]


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


class RescuerOut(Schema):
    technician_id: int
    name: str
    phone: str
    doing: str
    drive_seconds: int
    start: int
    reasons: list[ReasonOut]
    asks: bool
    # Seconds of driving that it costs by the company's playbook, lateness and broken promises among them.
    costs: int
    # Whether work begins by when it must; null: nothing says when.
    in_time: bool | None
    soonest: bool
    gives_way: list[str]


class ElsewhereOut(Schema):
    technician_id: int
    name: str
    start: int
    extra_drive_seconds: int


class GivesWayOut(Schema):
    """A visit that urgent work displaces: who leads it, when it would begin then, what of it no longer holds, and where
    else it could go without breaking anything."""

    visit_id: int
    version: int
    technician_id: int
    label: str
    promise: PromiseOut | None
    starts: int
    later_seconds: int
    breaks: list[str]
    elsewhere: ElsewhereOut | None


class DecisionOut(Schema):
    start: int
    by: int | None
    reasons: list[ReasonOut]
    gives_way: list[GivesWayOut]


class DayWorkloadOut(Schema):
    """Seconds; see core.planning.workload. `left` is what is still free."""

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


def bulk_out(outcomes: list[Outcome]) -> dict[str, Any]:
    rows = [
        {"visit_id": row.visit_id, "label": row.label, "sentence": row.sentence, "problem": row.problem,
         "asks": row.asks, "warnings": list(row.warnings)}
        for row in outcomes
    ]  # fmt: skip
    return {"done": sum(1 for row in outcomes if not row.problem), "outcomes": rows}


def gap_out(technician_id: int, hours: Interval, found: list[Filler]) -> dict[str, Any]:
    return {
        "technician_id": technician_id, "start": hours.start, "end": hours.end,
        "fillers": [
            {
                "visit": visit_fields(row.visit), "start": row.start, "extra_drive_seconds": row.extra_drive_seconds,
                "drive_seconds": row.drive_seconds, "reasons": list(row.reasons), "standby": row.standby,
            }
            for row in found
        ],
    }  # fmt: skip


def rescuer_out(row: Rescuer) -> dict[str, Any]:
    return {
        "technician_id": row.technician_id, "name": row.name, "phone": row.phone, "doing": row.doing,
        "drive_seconds": row.drive_seconds, "start": row.start, "reasons": reasons_out(row.rescue.verdict),
        "asks": bool(row.rescue.verdict.questions), "costs": row.rescue.points, "in_time": row.rescue.in_time,
        "soonest": row.soonest, "gives_way": row.gives_way,
    }  # fmt: skip


def decision_out(found: Decision) -> dict[str, Any]:
    return {
        "start": found.start, "by": found.by, "reasons": reasons_out(found.verdict),
        "gives_way": [_gives_way(row) for row in found.gives_way],
    }  # fmt: skip


def _gives_way(row: GivesWay) -> dict[str, Any]:
    line, place = row.line, row.elsewhere
    promise = {"start": line.promise.start, "end": line.promise.end} if line.promise else None
    return {
        "visit_id": line.id, "version": line.version, "technician_id": line.technician_id,
        "label": f"{line.number} {line.site}", "promise": promise,
        "starts": -(-row.displaced.starts // 60) * 60, "later_seconds": row.displaced.later,
        "breaks": list(row.displaced.breaks),
        "elsewhere": place and {"name": row.name, **asdict(place)},
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

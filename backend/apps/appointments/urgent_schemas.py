"""Wire shapes of urgent work. Times are epoch seconds."""

from dataclasses import asdict
from typing import Any

from ninja import Schema

from apps.appointments.urgent import Decision, GivesWay, Responder
from apps.intake.schemas import PromiseOut
from apps.scheduling.schemas import ReasonOut, reasons_out


class ResponderOut(Schema):
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


def responder_out(row: Responder) -> dict[str, Any]:
    return {
        "technician_id": row.technician_id, "name": row.name, "phone": row.phone, "doing": row.doing,
        "drive_seconds": row.drive_seconds, "start": row.start, "reasons": reasons_out(row.response.verdict),
        "asks": bool(row.response.verdict.questions), "costs": row.response.points, "in_time": row.response.in_time,
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

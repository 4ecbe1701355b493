"""Wire shapes of day logs. Times are epoch seconds, odometers whole kilometres."""

from datetime import date
from typing import Any, Self
from uuid import UUID

from ninja import Schema

from apps.company.queries import company, record_fields
from apps.daylogs.models import Fuel
from apps.daylogs.queries import Day, fuel_of, pauses_of, vehicles
from core.daylogs import OddEntry, Summary
from core.forms import stored
from foundation.moments import to_moment


class PauseOut(Schema):
    since: int
    until: int | None


class FuelOut(Schema):
    """Thousandths of a litre, the currency's smallest unit. `size` 0: without a receipt; `here`: its photo has come."""

    id: UUID
    at: int
    millilitres: int
    amount: int
    size: int
    here: bool

    @classmethod
    def of(cls, row: Fuel) -> Self:
        return cls(
            id=row.pk, at=int(row.at.timestamp()), millilitres=row.millilitres, amount=row.amount, size=row.size,
            here=row.receipt_id is not None,
        )  # fmt: skip


class ExplainedOut(Schema):
    key: str
    words: str


class LoggedVisitOut(Schema):
    """One's own part in a visit of the day."""

    id: int
    label: str
    departed: int | None
    arrived: int | None
    finished: int | None
    over: bool


class VehicleChoiceOut(Schema):
    id: int
    name: str


class DayLogOut(Schema):
    """Somebody's day. `questions`: what is asked about the vehicle; `checks`: the answers, by key."""

    technician_id: int
    day: date
    began: int | None
    began_typed: bool
    ended: int | None
    ended_typed: bool
    vehicle_id: int | None
    vehicle: str
    drives: bool
    odometer_began: int | None
    odometer_ended: int | None
    checks: dict[str, Any]
    questions: list[dict[str, Any]]
    pauses: list[PauseOut]
    fuel: list[FuelOut]
    explained: list[ExplainedOut]
    visits: list[LoggedVisitOut]
    currency: str

    @classmethod
    def values(cls, day: Day) -> dict[str, Any]:
        log, vehicle = day.log, day.vehicle
        return {
            "technician_id": day.technician.pk, "day": day.day,
            "began": to_moment(log.began_at) if log else None, "began_typed": log.began_typed if log else False,
            "ended": to_moment(log.ended_at) if log else None, "ended_typed": log.ended_typed if log else False,
            "vehicle_id": vehicle.pk if vehicle else None, "vehicle": vehicle.name if vehicle else "",
            "drives": vehicle is not None,
            "odometer_began": log.odometer_began if log else None,
            "odometer_ended": log.odometer_ended if log else None, "checks": log.checks if log else {},
            "currency": company().currency, "questions": stored(record_fields("vehicle")),
            "pauses": [PauseOut(since=to_moment(row.since) or 0, until=to_moment(row.until)) for row in pauses_of(log)]
            if log
            else [],
            "fuel": [FuelOut.of(row) for row in fuel_of(log)] if log else [],
            "explained": [ExplainedOut(key=row.key, words=row.words) for row in log.explained.all()] if log else [],
            "visits": [
                LoggedVisitOut(
                    id=one.id, label=one.row.label, departed=one.row.departed, arrived=one.row.arrived,
                    finished=one.row.finished, over=one.row.over,
                )
                for one in day.visits
            ],
        }  # fmt: skip


class DaySummaryOut(Schema):
    """Seconds and kilometres; null: it cannot be said."""

    hours: int | None
    pauses: int
    driving: int
    at_visits: int
    kilometres: int | None
    open: list[str]

    @classmethod
    def of(cls, row: Summary) -> Self:
        return cls(
            hours=row.hours,
            pauses=row.pauses,
            driving=row.driving,
            at_visits=row.at_visits,
            kilometres=row.kilometres,
            open=list(row.open),
        )


class OddEntryOut(Schema):
    """What was asked about the day and is not answered."""

    key: str
    words: str

    @classmethod
    def of(cls, row: OddEntry) -> Self:
        return cls(key=row.key, words=row.words)


class EarlierDayOut(Schema):
    """A day before, of which something is still asked."""

    day: date
    odd: list[OddEntryOut]

    @classmethod
    def of(cls, found: Day) -> Self:
        return cls(day=found.day, odd=[OddEntryOut.of(row) for row in found.odd])


class OfficeDayOut(DayLogOut):
    """A day as the office reads it."""

    summary: DaySummaryOut
    odd: list[OddEntryOut]

    @classmethod
    def of(cls, day: Day) -> Self:
        return cls(
            **cls.values(day), summary=DaySummaryOut.of(day.summary), odd=[OddEntryOut.of(row) for row in day.odd]
        )


def vehicle_choices() -> list[VehicleChoiceOut]:
    """What may be driven."""
    return [VehicleChoiceOut(id=row.pk, name=row.name) for row in vehicles()]

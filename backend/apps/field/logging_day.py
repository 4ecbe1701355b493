"""Deeds of the day: on and off the clock, vehicle, breaks, fuel. The shape of each, and the command that takes it."""

from collections.abc import Mapping
from datetime import date, datetime
from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field

from apps.daylogs import commands as logs
from apps.daylogs.inputs import FuelFields, OfDay, VehicleFields
from apps.field.bodies import Body, Kind
from apps.field.inputs import SentDeed
from foundation.actors import Actor
from foundation.moments import Moment, to_datetime
from foundation.schemas import Text

_Odometer = Annotated[int, Field(ge=0, le=3_000_000)]


class _Day(Body):
    day: date = Field(ge=date(2001, 1, 1), le=date(2099, 12, 31))


class _Pause(_Day):
    begins: bool


class _Vehicle(_Day):
    vehicle_id: int | None = Field(None, ge=1, le=2**62)
    name: Text = Field("", max_length=80)
    odometer_began: _Odometer | None = None
    odometer_ended: _Odometer | None = None
    checks: dict[Annotated[str, Field(max_length=40)], str | float | bool | None] | None = None


class _Fuel(_Day):
    id: UUID
    millilitres: int = Field(ge=1, le=1_000_000)
    amount: int = Field(ge=0, le=10_000_000)
    size: int = Field(0, ge=0, le=2**31 - 1)


class _FuelOut(_Day):
    id: UUID


class _Typed(_Day):
    which: Literal["began", "ended"]
    at: Moment


class _Explain(_Day):
    key: Text = Field(min_length=1, max_length=40)
    words: Text = Field(min_length=1, max_length=300)


def _of(actor: Actor, now: datetime, sent: SentDeed, body: _Day) -> OfDay:
    whose = sent.technician_id or actor.technician_id
    assert whose is not None  # only technicians have phones
    return OfDay(technician_id=whose, day=body.day, at=min(sent.happened_at, now), where=sent.where)


def _on(actor: Actor, now: datetime, sent: SentDeed, body: _Day) -> str:
    logs.clock_on(actor=actor, now=now, of=_of(actor, now, sent, body))
    return ""


def _off(actor: Actor, now: datetime, sent: SentDeed, body: _Day) -> str:
    logs.clock_off(actor=actor, now=now, of=_of(actor, now, sent, body))
    return ""


def _pause(actor: Actor, now: datetime, sent: SentDeed, body: _Pause) -> str:
    logs.pause(actor=actor, now=now, of=_of(actor, now, sent, body), begins=body.begins)
    return ""


def _vehicle(actor: Actor, now: datetime, sent: SentDeed, body: _Vehicle) -> str:
    fields = VehicleFields(**body.model_dump(exclude={"day", "name"}))
    logs.say_vehicle(actor=actor, now=now, of=_of(actor, now, sent, body), fields=fields)
    return ""


def _fuel(actor: Actor, now: datetime, sent: SentDeed, body: _Fuel) -> str:
    fields = FuelFields(**body.model_dump(exclude={"day"}))
    logs.add_fuel(actor=actor, now=now, of=_of(actor, now, sent, body), fields=fields)
    return ""


def _fuel_out(actor: Actor, now: datetime, sent: SentDeed, body: _FuelOut) -> str:
    logs.drop_fuel(actor=actor, now=now, of=_of(actor, now, sent, body), fuel_id=body.id)
    return ""


def _typed(actor: Actor, now: datetime, sent: SentDeed, body: _Typed) -> str:
    at = to_datetime(body.at)
    logs.type_time(actor=actor, now=now, of=_of(actor, now, sent, body), which=body.which, at=at)
    return ""


def _explain(actor: Actor, now: datetime, sent: SentDeed, body: _Explain) -> str:
    logs.explain(actor=actor, now=now, of=_of(actor, now, sent, body), key=body.key, words=body.words)
    return ""


DAY_KINDS: Mapping[str, Kind] = {
    "clock on": (_Day, _on),
    "clock off": (_Day, _off),
    "pause": (_Pause, _pause),
    "vehicle": (_Vehicle, _vehicle),
    "fuel": (_Fuel, _fuel),
    "fuel out": (_FuelOut, _fuel_out),
    "typed time": (_Typed, _typed),
    "explain": (_Explain, _explain),
}

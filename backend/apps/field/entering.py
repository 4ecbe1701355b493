"""Deeds that say what a visit took: parts, times, charges. The shape of each, and the command that takes it."""

from collections.abc import Mapping
from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from django.db import transaction
from pydantic import Field

from apps.field.bodies import Body, Kind, doing_of
from apps.field.inputs import SentDeed
from apps.orders.models import Visit
from apps.people import queries as people
from apps.reports import commands as reports
from apps.reports.inputs import ChargeFields, RemovedPartFields, TimeFields, UsedPartFields
from apps.stock import commands as stock
from apps.supply import commands as supply
from apps.supply.inputs import Asked, CameOut
from foundation.actors import Actor
from foundation.errors import RelayError
from foundation.moments import Moment, to_datetime
from foundation.schemas import Text

_Quantity = Annotated[int, Field(ge=0, le=100_000)]
_Code = Annotated[Text, Field(max_length=40)]
_Serial = Annotated[Text, Field(min_length=1, max_length=60)]


class _Part(Body):
    """`name` is for those who read it before it is taken in."""

    id: UUID
    code: _Code
    name: Text = Field("", max_length=200)
    quantity: _Quantity
    serials: list[_Serial] = Field(default_factory=list, max_length=500)
    batch: Text = Field("", max_length=40)
    place_id: int | None = Field(None, ge=1, le=2**62)
    elsewhere: Text = Field("", max_length=120)


class _Line(Body):
    id: UUID


class _Removed(Body):
    id: UUID
    code: _Code = ""
    words: Text = Field("", max_length=200)
    quantity: int = Field(1, ge=1, le=100_000)
    serial: Text = Field("", max_length=60)
    what: Literal["defective", "kept", "thrown away"]
    because: Text = Field("", max_length=200)


class _Asked(Body):
    code: _Code
    name: Text = Field("", max_length=200)
    quantity: int = Field(ge=1, le=100_000)
    needed_by: Moment | None = None
    must: bool = True
    substitute_allowed: bool = False
    words: Text = Field("", max_length=300)


class _Time(Body):
    technician_id: int = Field(ge=1, le=2**62)
    sort: Literal["travel", "work"]
    minutes: int | None = Field(None, ge=0, le=1440)
    reason: Text = Field("", max_length=200)


class _Charge(Body):
    id: UUID
    item: _Code = ""
    words: Text = Field("", max_length=200)
    quantity: int = Field(1000, ge=1, le=100_000_000)


class _Mileage(Body):
    metres: int | None = Field(None, ge=0, le=2_000_000)


class _NothingMore(Body):
    of: Literal["parts", "time", "charges"]
    said: bool = True


def _part(actor: Actor, now: datetime, sent: SentDeed, body: _Part) -> str:
    fields = UsedPartFields(**body.model_dump(exclude={"name"}))
    reports.use_part(actor=actor, now=now, doing=doing_of(actor, now, sent), fields=fields)
    return ""


def _part_out(actor: Actor, now: datetime, sent: SentDeed, body: _Line) -> str:
    reports.drop_part(actor=actor, now=now, doing=doing_of(actor, now, sent), line_id=body.id)
    return ""


def _removed(actor: Actor, now: datetime, sent: SentDeed, body: _Removed) -> str:
    """What came out came out: where stock cannot follow, it is recorded all the same, and that is said."""
    doing = doing_of(actor, now, sent)
    fields = RemovedPartFields(**body.model_dump())
    visit = reports.remove_part(actor=actor, now=now, doing=doing, fields=fields)
    if visit is None or not body.code:
        return ""
    try:
        with transaction.atomic():
            supply.take_back(actor=actor, now=now, out=_came_out(visit, doing.technician_id, body))
    except RelayError as error:
        return f"It stands in the report, but not in the stock: {error.sentence}"
    return ""


def _came_out(visit: Visit, technician_id: int, body: _Removed) -> CameOut:
    kept = stock.place_of_van(people.technician(technician_id)).pk if body.what == "kept" else None
    return CameOut(
        code=body.code, quantity=body.quantity, because=body.because or "it came out at a visit", what=body.what,
        site_id=visit.order.site_id, asset_id=visit.order.asset_id, to_place_id=kept, visit_id=visit.pk,
        serial=body.serial,
    )  # fmt: skip


def _asked(actor: Actor, now: datetime, sent: SentDeed, body: _Asked) -> str:
    doing = doing_of(actor, now, sent)
    asked = Asked(
        code=body.code, quantity=body.quantity, technician_id=doing.technician_id, visit_id=doing.visit_id,
        needed_by=to_datetime(body.needed_by) if body.needed_by is not None else None, must=body.must,
        substitute_allowed=body.substitute_allowed, words=body.words,
    )  # fmt: skip
    supply.ask(actor=actor, now=now, asked=asked)
    return ""


def _time(actor: Actor, now: datetime, sent: SentDeed, body: _Time) -> str:
    fields = TimeFields(**body.model_dump())
    reports.say_time(actor=actor, now=now, doing=doing_of(actor, now, sent), fields=fields)
    return ""


def _charge(actor: Actor, now: datetime, sent: SentDeed, body: _Charge) -> str:
    fields = ChargeFields(**body.model_dump())
    reports.put_charge(actor=actor, now=now, doing=doing_of(actor, now, sent), fields=fields)
    return ""


def _charge_out(actor: Actor, now: datetime, sent: SentDeed, body: _Line) -> str:
    reports.drop_charge(actor=actor, now=now, doing=doing_of(actor, now, sent), line_id=body.id)
    return ""


def _mileage(actor: Actor, now: datetime, sent: SentDeed, body: _Mileage) -> str:
    reports.set_mileage(actor=actor, now=now, doing=doing_of(actor, now, sent), metres=body.metres)
    return ""


def _nothing_more(actor: Actor, now: datetime, sent: SentDeed, body: _NothingMore) -> str:
    reports.nothing_more(actor=actor, now=now, doing=doing_of(actor, now, sent), of=body.of, said=body.said)
    return ""


ENTRY_KINDS: Mapping[str, Kind] = {
    "part": (_Part, _part),
    "part out": (_Line, _part_out),
    "removed part": (_Removed, _removed),
    "part asked": (_Asked, _asked),
    "time": (_Time, _time),
    "charge": (_Charge, _charge),
    "charge out": (_Line, _charge_out),
    "mileage": (_Mileage, _mileage),
    "nothing more": (_NothingMore, _nothing_more),
}

"""Wire shapes of the phone."""

from datetime import date
from typing import Literal
from uuid import UUID

from ninja import Field, Schema

from apps.orders.inputs import Base, Deed
from apps.orders.schemas import VisitOut
from apps.people.models import DaysAsked
from core.basics import Place
from core.orders import Step, VisitState
from foundation.moments import Moment, to_datetime
from foundation.schemas import Text


class WhereIn(Schema):
    lon: float = Field(ge=-180, le=180)
    lat: float = Field(ge=-90, le=90)
    accuracy_metres: float | None = Field(None, ge=0, le=10_000_000)


class BaseIn(Schema):
    """The visit as it was seen: its state, and when it was to begin."""

    state: VisitState
    start: Moment | None = None


class DaysAskedIn(Schema):
    """Whole days off. `words`: what the desk should know."""

    first_day: date = Field(ge=date(2001, 1, 1), le=date(2099, 12, 1))
    last_day: date = Field(ge=date(2001, 1, 1), le=date(2099, 12, 1))
    kind: Literal["holiday", "sickness", "training", "other"]
    words: Text = Field("", max_length=300)


class DaysAskedOut(Schema):
    id: int
    first_day: date
    last_day: date
    kind: str
    words: str
    state: Literal["asked", "granted", "declined", "withdrawn", "taken back"]
    answered_by: str
    answer: str

    @staticmethod
    def resolve_state(row: DaysAsked) -> str:
        """An absence that was removed was taken back."""
        return "taken back" if row.state == "granted" and row.absence_id is None else row.state


class AllowanceOut(Schema):
    """Working days of holiday; `days` null: nobody counts them."""

    year: int
    days: int | None
    taken: int


class DaysOffOut(Schema):
    allowance: AllowanceOut
    asked: list[DaysAskedOut]


class FieldStepIn(Schema):
    """`key` is made on the phone: sent twice under the same one, it is done once. `happened_at`: when it was done, if
    that is not now. `based_on`: the visit as it was seen; then `version` can be left out, and what else was
    changed meanwhile does not stand in the way.
    """

    version: int | None = Field(None, ge=1, le=2**31 - 1)
    step: Step
    note: Text = Field("", max_length=2000)
    where: WhereIn | None = None
    key: UUID | None = None
    happened_at: Moment | None = None
    based_on: BaseIn | None = None

    def deed(self) -> Deed:
        where = self.where
        return Deed(
            key=self.key, based_on=Base(**self.based_on.dict()) if self.based_on else None,
            happened_at=to_datetime(self.happened_at) if self.happened_at is not None else None,
            where=Place(where.lon, where.lat) if where else None,
            accuracy_metres=where.accuracy_metres if where else None,
        )  # fmt: skip


class FieldDayOut(Schema):
    technician_id: int
    day: date
    visits: list[VisitOut]

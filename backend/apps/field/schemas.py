"""Wire shapes of the phone."""

from datetime import date

from ninja import Field, Schema

from apps.orders.schemas import Version, VisitOut
from core.orders import Step
from foundation.schemas import Text


class WhereIn(Schema):
    lon: float = Field(ge=-180, le=180)
    lat: float = Field(ge=-90, le=90)


class FieldStepIn(Schema):
    version: int = Version
    step: Step
    note: Text = Field("", max_length=2000)
    where: WhereIn | None = None


class FieldDayOut(Schema):
    technician_id: int
    day: date
    visits: list[VisitOut]

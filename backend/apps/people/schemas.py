"""Wire shapes of people."""

from typing import Annotated, Self

from ninja import Field, Schema

from apps.people.models import Absence, Crew
from core.roles import Action, Role
from foundation.moments import Moment
from foundation.schemas import Text


class SignIn(Schema):
    email: str = Field(max_length=254)
    password: str = Field(max_length=200)


class AccountOut(Schema):
    id: int
    name: str
    email: str
    role: Role
    technician_id: int | None


class SessionOut(Schema):
    """`account` is None while signed out. `now` is the application's clock."""

    account: AccountOut | None
    may: list[Action]
    csrf_token: str
    now: int
    demo: bool


class DemoAccountOut(Schema):
    name: str
    email: str
    role: Role
    technician_id: int | None


class DemoOut(Schema):
    password: str
    accounts: list[DemoAccountOut]


class TechnicianOut(Schema):
    id: int
    name: str


class AbsenceIn(Schema):
    """From and until are epoch seconds."""

    technician_id: int = Field(ge=1, le=2**62)
    start: Moment
    end: Moment
    reason: Text = Field("", max_length=120)


class AbsenceOut(Schema):
    id: int
    start: int
    end: int
    reason: str

    @classmethod
    def of(cls, row: Absence) -> Self:
        return cls(id=row.pk, start=int(row.start.timestamp()), end=int(row.end.timestamp()), reason=row.reason)


class CrewIn(Schema):
    """`members` are technicians, the one who leads first."""

    name: Text = Field(max_length=60)
    members: list[Annotated[int, Field(ge=1, le=2**62)]] = Field(max_length=20)


class CrewChangeIn(CrewIn):
    version: int = Field(ge=1, le=2**31 - 1)


class CrewOut(CrewChangeIn):
    id: int

    @classmethod
    def of(cls, crew: Crew) -> Self:
        members = [place.technician_id for place in crew.places.all()]
        return cls(id=crew.pk, version=crew.version, name=crew.name, members=members)


class CertificateKindIn(Schema):
    name: Text = Field(min_length=1, max_length=80)

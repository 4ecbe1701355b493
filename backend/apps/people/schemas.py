"""Wire shapes of people."""

from collections.abc import Iterable
from datetime import date, time
from decimal import Decimal
from typing import Annotated, Self

from ninja import Field, Schema

from apps.people.inputs import MOST_WEEKS, TechnicianFields, TermsFields
from apps.people.models import Absence, Crew, Technician, Vehicle
from apps.people.weeks import Week
from core.basics import Place
from core.roles import Action, Role
from foundation.moments import Moment
from foundation.schemas import Text


class AccountOut(Schema):
    id: int
    name: str
    email: str
    role: Role
    role_name: str
    technician_id: int | None


class SessionOut(Schema):
    """`account` is None while signed out. `now` is the application's clock. `idle_minutes`: after so many without
    anybody there one is signed out; 0: never. `helper`: who has signed in as this account, to help. `directory`:
    what the company's directory is called, with which one may sign in; empty: there is none."""

    account: AccountOut | None
    may: list[Action]
    csrf_token: str
    now: int
    demo: bool
    idle_minutes: int = 0
    helper: str | None = None
    directory: str = ""


class DemoAccountOut(Schema):
    name: str
    email: str
    role: Role
    technician_id: int | None


class DemoOut(Schema):
    password: str
    accounts: list[DemoAccountOut]


class TechnicianOut(Schema):
    """`has_hours`: whether they have a shift on some day from today on; `has_account`: whether they may sign in."""

    id: int
    name: str
    depot: str
    has_hours: bool
    has_account: bool

    @staticmethod
    def resolve_has_account(row: Technician) -> bool:
        return row.account_id is not None

    @staticmethod
    def resolve_depot(row: Technician) -> str:
        return row.depot.name


class RunningOutOut(Schema):
    """See apps.people.papers.RunningOut."""

    key: str
    label: str
    sentence: str
    technician_id: int | None
    vehicle: str | None


class ShiftIn(Schema):
    """The shift of one weekday (0 = Monday), in wall-clock times; see apps.people.inputs.ShiftFields."""

    weekday: int = Field(ge=0, le=6)
    start: time
    end: time
    rest_earliest: time | None = None
    rest_latest: time | None = None
    rest_minutes: int = Field(0, ge=0, le=600)
    overtime_minutes: int = Field(0, ge=0, le=720)
    gap_start: time | None = None
    gap_end: time | None = None
    on_call_until: time | None = None
    week: int = Field(0, ge=0, lt=MOST_WEEKS)


class WeekIn(Schema):
    """All shifts from a day on, of one week or of several in turn."""

    version: int = Field(ge=1, le=2**31 - 1)
    valid_from: date = Field(ge=date(2001, 1, 1), le=date(2099, 12, 1))
    weeks: int = Field(1, ge=1, le=MOST_WEEKS)
    shifts: list[ShiftIn] = Field(max_length=7 * MOST_WEEKS)


class WeekOut(Schema):
    """Shifts that hold from a day on, until before another one; None: for good. `current` is which of the weeks in turn
    today lies in, or the first day they hold."""

    valid_from: date
    valid_until: date | None
    weeks: int
    current: int
    shifts: list[ShiftIn]


class TechnicianIn(Schema):
    """`skills` is a level (1-5) by key; no area: everywhere."""

    name: Text = Field(max_length=120)
    phone: Text = Field("", max_length=40)
    email: Text = Field("", max_length=254)
    depot_id: int = Field(ge=1, le=2**62)
    area_ids: list[Annotated[int, Field(ge=1, le=2**62)]] = Field(default_factory=list, max_length=200)
    skills: dict[Annotated[Text, Field(max_length=40)], int] = Field(default_factory=dict, max_length=200)

    def fields(self) -> TechnicianFields:
        return TechnicianFields(**{name: getattr(self, name) for name in TechnicianIn.model_fields})


class TechnicianChangeIn(TechnicianIn):
    """`valid_from`: from which day on days begin at another depot; left out: today."""

    version: int = Field(ge=1, le=2**31 - 1)
    valid_from: date | None = None


class SkillsRowOut(Schema):
    """A technician's line in the sheet of skills: a level (1-5) by key."""

    id: int
    version: int
    name: str
    skills: dict[str, int]

    @classmethod
    def of(cls, row: Technician) -> Self:
        skills = {held.skill.code: held.level for held in row.skills.all()}
        return cls(id=row.pk, version=row.version, name=row.name, skills=skills)


class SkillIn(Schema):
    """One cell of the sheet of skills; no level: not at all."""

    version: int = Field(ge=1, le=2**31 - 1)
    code: Text = Field(max_length=40)
    level: int | None = Field(None, ge=1, le=5)


class CertificateIn(Schema):
    """`valid_until` is the last day; None: for good. `file_id`: the paper itself."""

    code: Text = Field(max_length=40)
    number: Text = Field("", max_length=40)
    valid_until: date | None = Field(None, ge=date(2001, 1, 1), le=date(2099, 12, 1))
    file_id: int | None = Field(None, ge=1, le=2**62)


class CertificatesIn(Schema):
    """All certificates of a technician."""

    version: int = Field(ge=1, le=2**31 - 1)
    certificates: list[CertificateIn] = Field(max_length=60)


Cost = Annotated[Decimal, Field(ge=0, max_digits=8, decimal_places=2)]


class TermsIn(Schema):
    """How somebody works; see apps.people.inputs.TermsFields. `home_lon` and `home_lat` go together; `valid_from`: from
    which day on days begin and end there; left out: today."""

    version: int = Field(ge=1, le=2**31 - 1)
    valid_from: date | None = None
    home_address: Text = Field("", max_length=300)
    home_lon: float | None = Field(None, ge=-180, le=180)
    home_lat: float | None = Field(None, ge=-90, le=90)
    starts_at_home: bool = False
    ends_at_home: bool = False
    vehicle: Text | None = Field(None, max_length=40)
    cost_per_hour: Cost | None = None
    holiday_days: int | None = Field(None, ge=0, le=366)
    liked_skills: list[Annotated[Text, Field(max_length=40)]] = Field(default_factory=list, max_length=200)
    avoided_skills: list[Annotated[Text, Field(max_length=40)]] = Field(default_factory=list, max_length=200)
    liked_areas: list[Annotated[int, Field(ge=1, le=2**62)]] = Field(default_factory=list, max_length=200)
    avoided_areas: list[Annotated[int, Field(ge=1, le=2**62)]] = Field(default_factory=list, max_length=200)

    def fields(self) -> TermsFields:
        given = self.dict(exclude={"version", "valid_from", "home_lon", "home_lat"})
        known = self.home_lon is not None and self.home_lat is not None
        return TermsFields(home=Place(self.home_lon or 0.0, self.home_lat or 0.0) if known else None, **given)


class TermsOut(TermsIn):
    @classmethod
    def of(cls, row: Technician) -> Self:
        wishes = list(row.wishes.all())
        return cls(
            version=row.version, home_address=row.home_address, home_lon=row.home_lon, home_lat=row.home_lat,
            starts_at_home=row.starts_at_home, ends_at_home=row.ends_at_home,
            vehicle=row.vehicle.code if row.vehicle else None, cost_per_hour=row.cost_per_hour,
            holiday_days=row.holiday_days,
            liked_skills=[wish.skill.code for wish in wishes if wish.skill and wish.likes],
            avoided_skills=[wish.skill.code for wish in wishes if wish.skill and not wish.likes],
            liked_areas=[wish.area_id for wish in wishes if wish.area_id and wish.likes],
            avoided_areas=[wish.area_id for wish in wishes if wish.area_id and not wish.likes],
        )  # fmt: skip


class VehicleIn(Schema):
    """What is known of a vehicle besides its name; see apps.people.inputs.VehicleFields."""

    version: int = Field(ge=1, le=2**31 - 1)
    plate: Text = Field("", max_length=20)
    depot_id: int | None = Field(None, ge=1, le=2**62)
    inspection_due: date | None = Field(None, ge=date(2001, 1, 1), le=date(2099, 12, 1))
    cost_per_km: Cost | None = None


class VehicleOut(VehicleIn):
    code: str
    name: str
    drivers: list[str]

    @classmethod
    def of(cls, row: Vehicle) -> Self:
        return cls(
            version=row.version, code=row.code, name=row.name, plate=row.plate, depot_id=row.depot_id,
            inspection_due=row.inspection_due, cost_per_km=row.cost_per_km,
            drivers=sorted(driver.name for driver in row.drivers.all()),
        )  # fmt: skip


class EmploymentIn(Schema):
    """First and last day; None: since ever, for good."""

    version: int = Field(ge=1, le=2**31 - 1)
    employed_from: date | None = Field(None, ge=date(1950, 1, 1), le=date(2099, 12, 1))
    employed_until: date | None = Field(None, ge=date(2001, 1, 1), le=date(2099, 12, 1))


class TechnicianRecordOut(TechnicianChangeIn):
    """All that is set up of a technician. `weeks` are today's and those to come, in order."""

    id: int
    has_photo: bool
    employed_from: date | None
    employed_until: date | None
    certificates: list[CertificateIn]
    weeks: list[WeekOut]

    @classmethod
    def of(cls, row: Technician, weeks: Iterable[Week]) -> Self:
        return cls(
            id=row.pk, version=row.version, name=row.name, phone=row.phone, email=row.email, depot_id=row.depot_id,
            area_ids=[area.pk for area in row.areas.all()],
            skills={held.skill.code: held.level for held in row.skills.all()},
            has_photo=hasattr(row, "photo"), employed_from=row.employed_from, employed_until=row.employed_until,
            certificates=[
                CertificateIn(
                    code=held.kind.code, number=held.number, valid_until=held.valid_until, file_id=held.file_id
                )
                for held in sorted(row.certificates.all(), key=lambda held: held.kind.name)
            ],
            weeks=[
                WeekOut(
                    valid_from=week.valid_from, valid_until=week.valid_until, weeks=week.weeks, current=week.current,
                    shifts=[ShiftIn(**vars(shift)) for shift in week.shifts],
                )
                for week in weeks
            ],
        )  # fmt: skip


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


class CalendarEventOut(Schema):
    """An event of a calendar file, and why it is no absence."""

    words: str
    start: int | None
    end: int | None
    problem: str


class CalendarOut(Schema):
    """`sure`: the absences are noted; otherwise only what would come of the file."""

    sure: bool
    events: list[CalendarEventOut]


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

"""HTTP: the company."""

from dataclasses import asdict
from datetime import timedelta
from typing import Annotated

from django.http import HttpRequest, HttpResponse
from ninja import File, Query, Router, Status
from ninja.files import UploadedFile

from apps.company import answers, commands, queries
from apps.company.inputs import CompanyFields
from apps.company.models import Depot, Holiday, Tag
from apps.company.schemas import (
    AreaOut,
    CompanyChangeIn,
    CompanyOut,
    CountryOut,
    DepotChangeIn,
    DepotIn,
    DepotOut,
    DepotRetireIn,
    FieldMergeIn,
    HolidayIn,
    HolidayOut,
    PublicHolidayOut,
    PublicHolidaysIn,
    QuestionIn,
    RecordFieldsIn,
    RecordFieldsOut,
    RegionOut,
    SettingOut,
    SettingsIn,
    SettingsOut,
    StyleOut,
)
from core.basics import Place
from core.company import TEMPLATES, Settings, countries, explained, regions_of
from core.forms import Question
from core.roles import Action
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.named.api import serve
from foundation.schemas import Key, Typed, UseOut

router = Router()
serve(router, "/company/tags", Tag, see=Action.SEE_CUSTOMERS)


@router.get("/company", response=CompanyOut, auth=Needs(Action.USE))
def company(request: HttpRequest) -> CompanyOut:
    """Who the company is, its areas and depots."""
    return _company_out()


@router.put("/company", response=CompanyOut, auth=Needs(Action.CHANGE_SETTINGS))
def change_company(request: HttpRequest, body: CompanyChangeIn) -> CompanyOut:
    """Change who the company is."""
    fields = CompanyFields(**body.dict(exclude={"version"}))
    commands.change_company(actor=actor_of(request), now=clock.now(), version=body.version, fields=fields)
    return _company_out()


def _company_out() -> CompanyOut:
    found = queries.company()
    kept = queries.settings()
    style = kept.style
    return CompanyOut(
        **{name: getattr(found, name) for name in CompanyChangeIn.model_fields}, logo=queries.logo_mark(),
        style=StyleOut(
            twelve_hours=style.twelve_hours, month_first=style.month_first, week_begins=kept.week_begins
        ),
        areas=[AreaOut.from_orm(area) for area in queries.areas()],
        depots=[DepotOut.from_orm(depot) for depot in queries.depots()],
    )  # fmt: skip


@router.get("/company/logo", response={200: bytes}, auth=None)
def logo(request: HttpRequest) -> HttpResponse:
    """The company's logo, also for who is not signed in."""
    answer = HttpResponse(queries.logo(), content_type="image/png")
    answer["Cache-Control"] = "public, max-age=3600"
    return answer


@router.post("/company/logo", response=CompanyOut, auth=Needs(Action.CHANGE_SETTINGS))
def put_logo(request: HttpRequest, file: File[UploadedFile]) -> CompanyOut:
    """Put another logo."""
    commands.put_logo(actor=actor_of(request), now=clock.now(), content=file.read())
    return _company_out()


@router.delete("/company/logo", response=CompanyOut, auth=Needs(Action.CHANGE_SETTINGS))
def remove_logo(request: HttpRequest) -> CompanyOut:
    """Do without a logo."""
    commands.remove_logo(actor=actor_of(request), now=clock.now())
    return _company_out()


@router.get("/company/countries", response=list[CountryOut], auth=Needs(Action.USE))
def known_countries(request: HttpRequest) -> list[CountryOut]:
    """Countries whose public holidays are known."""
    return [
        CountryOut(code=code, regions=[RegionOut(key=key, name=name) for key, name in regions_of(code).items()])
        for code in countries()
    ]


@router.post("/depots", response={201: DepotOut}, auth=Needs(Action.CHANGE_SETTINGS))
def add_depot(request: HttpRequest, body: DepotIn) -> Status[Depot]:
    """A new depot."""
    made = commands.add_depot(
        actor=actor_of(request), now=clock.now(), name=body.name, address=body.address, place=Place(body.lon, body.lat)
    )
    return Status(201, made)


@router.post("/depots/{int:depot_id}/retired", response=DepotOut, auth=Needs(Action.CHANGE_SETTINGS))
def retire_depot(request: HttpRequest, depot_id: Key, body: DepotRetireIn) -> Depot:
    """Offer a depot no longer, or again. Who begins there goes on."""
    return commands.retire_depot(
        actor=actor_of(request), now=clock.now(), depot_id=depot_id, version=body.version, retired=body.retired
    )


@router.put("/depots/{int:depot_id}", response=DepotOut, auth=Needs(Action.CHANGE_SETTINGS))
def change_depot(request: HttpRequest, depot_id: Key, body: DepotChangeIn) -> Depot:
    """Another name or place for a depot."""
    return commands.change_depot(
        actor=actor_of(request), now=clock.now(), depot_id=depot_id, version=body.version, name=body.name,
        address=body.address, place=Place(body.lon, body.lat),
    )  # fmt: skip


@router.get("/company/settings", response=SettingsOut, auth=Needs(Action.SEE_ORDERS))
def settings(request: HttpRequest) -> SettingsOut:
    """All settings, with plain explanations."""
    return _settings_out()


@router.post("/company/settings", response=SettingsOut, auth=Needs(Action.CHANGE_SETTINGS))
def change_settings(request: HttpRequest, body: SettingsIn) -> SettingsOut:
    """Change some settings."""
    commands.change_settings(actor=actor_of(request), now=clock.now(), version=body.version, changes=body.changes)
    return _settings_out()


def _settings_out() -> SettingsOut:
    now, usual = queries.settings(), Settings()
    rows = [
        SettingOut(
            key=key, value=getattr(now, key), default=getattr(usual, key), words=list(TEMPLATES.get(key, ())),
            **asdict(shown),
        )
        for key, shown in explained().items()
    ]  # fmt: skip
    return SettingsOut(version=queries.company().version, settings=rows)


@router.get("/company/fields", response=list[RecordFieldsOut], auth=Needs(Action.SEE_CUSTOMERS))
def record_fields(request: HttpRequest) -> list[RecordFieldsOut]:
    """The company's own fields, by kind of record."""
    return [
        RecordFieldsOut(record=record, version=version, questions=[question_out(q) for q in questions])
        for record, (version, questions) in queries.all_record_fields().items()
    ]


@router.put("/company/fields/{record}", response=RecordFieldsOut, auth=Needs(Action.CHANGE_SETTINGS))
def change_record_fields(request: HttpRequest, record: str, body: RecordFieldsIn) -> RecordFieldsOut:
    """Define the own fields of one kind of record."""
    found = commands.change_record_fields(
        actor=actor_of(request), now=clock.now(), record=record, version=body.version,
        questions=[question.dict() for question in body.questions],
    )  # fmt: skip
    return RecordFieldsOut(record=record, version=body.version + 1, questions=[question_out(q) for q in found])


@router.get("/company/fields/{record}/{key}/uses", response=list[UseOut], auth=Needs(Action.SEE_CUSTOMERS))
def record_field_uses(request: HttpRequest, record: str, key: str) -> list[UseOut]:
    """Who answers an own field."""
    counted = [UseOut(what=place.what, count=place.count(key)) for place in answers.held(record)]
    return [row for row in counted if row.count]


@router.post("/company/fields/{record}/{key}/merge", response=RecordFieldsOut, auth=Needs(Action.CHANGE_SETTINGS))
def merge_record_field(request: HttpRequest, record: str, key: str, body: FieldMergeIn) -> RecordFieldsOut:
    """Make it one with another own field of the same kind of record."""
    found = commands.merge_record_field(
        actor=actor_of(request), now=clock.now(), record=record, version=body.version, key=key, into=body.into
    )
    return RecordFieldsOut(record=record, version=body.version + 1, questions=[question_out(q) for q in found])


@router.get("/company/holidays", response=list[HolidayOut], auth=Needs(Action.USE))
def holidays(request: HttpRequest) -> list[Holiday]:
    """Days on which nobody has a shift, from a month ago on."""
    return queries.holidays(since=(clock.now() - timedelta(days=31)).date())


@router.get("/company/holidays/public", response=list[PublicHolidayOut], auth=Needs(Action.USE))
def public_holidays(
    request: HttpRequest, country: Typed, year: Annotated[int, Query(ge=2001, le=2099)], region: Typed = ""
) -> list[queries.PublicHoliday]:
    """A country's public holidays in a year, and which of them the company has."""
    return queries.public_holidays(country, region, year)


@router.post("/company/holidays/public", response=list[PublicHolidayOut], auth=Needs(Action.CHANGE_SETTINGS))
def take_public_holidays(request: HttpRequest, body: PublicHolidaysIn) -> list[queries.PublicHoliday]:
    """Make some of them the company's."""
    commands.take_public_holidays(actor=actor_of(request), now=clock.now(), **body.dict())
    return queries.public_holidays(body.country, body.region, body.year)


@router.post("/company/holidays", response=HolidayOut, auth=Needs(Action.CHANGE_SETTINGS))
def add_holiday(request: HttpRequest, body: HolidayIn) -> Holiday:
    """Make a day a holiday."""
    return commands.add_holiday(actor=actor_of(request), now=clock.now(), day=body.day, name=body.name)


@router.delete("/company/holidays/{holiday_id}", response={204: None}, auth=Needs(Action.CHANGE_SETTINGS))
def remove_holiday(request: HttpRequest, holiday_id: Key) -> Status[None]:
    """Make a holiday a day like others."""
    commands.remove_holiday(actor=actor_of(request), now=clock.now(), holiday_id=holiday_id)
    return Status(204, None)


def question_out(question: Question) -> QuestionIn:
    return QuestionIn(**asdict(question))

"""HTTP: the company."""

from dataclasses import asdict
from datetime import timedelta
from typing import Any

from django.http import HttpRequest
from ninja import Router, Status

from apps.company import commands, queries
from apps.company.models import Depot, Holiday, Tag
from apps.company.schemas import (
    CompanyOut,
    DepotChangeIn,
    DepotIn,
    DepotOut,
    HolidayIn,
    HolidayOut,
    QuestionIn,
    RecordFieldsIn,
    RecordFieldsOut,
    SettingOut,
    SettingsIn,
    SettingsOut,
)
from core.basics import Place
from core.company import TEMPLATES, Settings, explained
from core.forms import Question
from core.roles import Action
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.named.api import serve
from foundation.schemas import Key

router = Router()
serve(router, "/company/tags", Tag, see=Action.SEE_CUSTOMERS)


@router.get("/company", response=CompanyOut, auth=Needs(Action.USE))
def company(request: HttpRequest) -> dict[str, Any]:
    """Name, time zone, areas and depots."""
    found = queries.company()
    return {
        "name": found.name,
        "time_zone": found.time_zone,
        "currency": found.currency,
        "areas": queries.areas(),
        "depots": queries.depots(),
    }


@router.post("/depots", response={201: DepotOut}, auth=Needs(Action.CHANGE_SETTINGS))
def add_depot(request: HttpRequest, body: DepotIn) -> Status[Depot]:
    """A new depot."""
    made = commands.add_depot(
        actor=actor_of(request), now=clock.now(), name=body.name, address=body.address, place=Place(body.lon, body.lat)
    )
    return Status(201, made)


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


@router.get("/company/holidays", response=list[HolidayOut], auth=Needs(Action.USE))
def holidays(request: HttpRequest) -> list[Holiday]:
    """Days on which nobody has a shift, from a month ago on."""
    return queries.holidays(since=(clock.now() - timedelta(days=31)).date())


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

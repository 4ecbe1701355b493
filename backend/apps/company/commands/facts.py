"""Who the company is: its name, where it is, its sign."""

import hashlib
from collections.abc import Callable
from dataclasses import asdict
from datetime import datetime
from zoneinfo import available_timezones

from django.core.exceptions import ValidationError
from django.core.validators import validate_email
from django.db import transaction

from apps.company import queries
from apps.company.inputs import CompanyFields
from apps.company.models import Company, Logo
from core.basics import is_phone_country
from core.company import regions_of
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected
from foundation.pictures import within

# As large as it is ever printed, at 300 dots an inch.
LOGO_SIZE = (900, 300)

_NAMES = {
    "name": "name", "time_zone": "time zone", "currency": "currency", "address": "address", "phone": "phone",
    "email": "e-mail", "tax_number": "tax number", "country": "country", "region": "region",
}  # fmt: skip

_holding: list[Callable[[], str]] = []


def hold_zone(why: Callable[[], str]) -> None:
    """Have the time zone stay as it is while `why` gives a sentence. Said by capabilities whose records would read
    differently in another zone, when they start."""
    _holding.append(why)


@transaction.atomic
def change_company(*, actor: Actor, now: datetime, version: int, fields: CompanyFields) -> Company:
    """Change who the company is.

    Raises
    ------
    Conflict
        When somebody else changed the company or its settings since they were read.
    Rejected
        When something cannot be; nothing changes.
    """
    require(actor, Action.CHANGE_SETTINGS)
    company = _locked()
    if company.version != version:
        newest = audit.since("company", company.pk, version)
        who = f"{newest[0].actor_name} has" if newest else "Somebody has"
        raise Conflict(f"{who} changed the company meanwhile. Look at it again.", current_version=company.version)
    # Only an address has lines: the rest stands in subjects of letters and in headings.
    values = {
        name: value.strip() if name == "address" else " ".join(value.split()) for name, value in asdict(fields).items()
    }
    values["country"], values["currency"] = values["country"].upper(), values["currency"].upper()
    _check(company, values)
    changed = [name for name, value in values.items() if getattr(company, name) != value]
    for name in changed:
        setattr(company, name, values[name])
    company.version += 1
    company.save(update_fields=[*changed, "version"])
    if "time_zone" in changed:
        transaction.on_commit(queries.forget_zone)
    words = ", ".join(_NAMES[name] for name in changed)
    _tell(actor, now, company, f"changed the company's {words}" if changed else "kept the company as it is")
    return company


def _check(company: Company, values: dict[str, str]) -> None:
    if not values["name"]:
        raise Rejected("A company needs a name.", field="name")
    if values["time_zone"] not in available_timezones():
        raise Rejected(f"“{values['time_zone']}” is no time zone, like Europe/Lisbon.", field="time_zone")
    if values["time_zone"] != company.time_zone and (why := next(filter(None, (say() for say in _holding)), "")):
        raise Rejected(f"{why} Its times would read differently in another zone.", field="time_zone")
    if len(values["currency"]) != 3 or not values["currency"].isascii() or not values["currency"].isalpha():
        raise Rejected("A currency is three letters, like EUR.", field="currency")
    if values["country"] and not is_phone_country(values["country"]):
        raise Rejected(f"“{values['country']}” is no country's two letters.", field="country")
    if values["region"] and values["region"] not in regions_of(values["country"]):
        raise Rejected("Choose one of the country's regions.", field="region")
    if values["email"]:
        try:
            validate_email(values["email"])
        except ValidationError as error:
            raise Rejected(f"“{values['email']}” is no e-mail address.", field="email") from error


@transaction.atomic
def put_logo(*, actor: Actor, now: datetime, content: bytes) -> Company:
    """Take a picture as the company's sign: made small enough for print, and written anew.

    Raises
    ------
    Rejected
        When it is no picture, or too large.
    """
    require(actor, Action.CHANGE_SETTINGS)
    picture = within(content, LOGO_SIZE)
    company = _locked()
    mark = hashlib.sha256(picture).hexdigest()[:16]
    Logo.objects.update_or_create(company=company, defaults={"content": picture, "mark": mark})
    _tell(actor, now, company, "put another logo")
    return company


@transaction.atomic
def remove_logo(*, actor: Actor, now: datetime) -> None:
    """Do without one again."""
    require(actor, Action.CHANGE_SETTINGS)
    company = _locked()
    if Logo.objects.filter(company=company).delete()[0]:
        _tell(actor, now, company, "removed the logo")


def _locked() -> Company:
    company = Company.objects.select_for_update().order_by("id").first()
    if company is None:
        raise NotFound("There is no company yet.", code="no_company")
    return company


def _tell(actor: Actor, now: datetime, company: Company, sentence: str) -> None:
    audit.record(
        actor=actor, now=now, action="company", entity="company", entity_id=company.pk, version=company.version,
        sentence=sentence,
    )  # fmt: skip
    live.announce("company", ids=[company.pk])

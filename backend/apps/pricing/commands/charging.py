"""How labour and journeys are charged, and the discounts the company gives by name."""

from collections.abc import Iterable, Mapping
from dataclasses import asdict
from datetime import date, datetime
from typing import Any

from django.db import transaction
from django.db.models import F

from apps.company.models import Area
from apps.people.queries import skill_names
from apps.pricing.charging import hours_of, travel_of
from apps.pricing.inputs import ChargingFields, NamedDiscountFields
from apps.pricing.models import Charging, Item, NamedDiscount
from core.pricing import Discount, ItemKind
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected
from foundation.named.rows import key_for


@transaction.atomic
def put_charging(*, actor: Actor, now: datetime, version: int, fields: ChargingFields) -> Charging:
    """Other rules for labour, journeys and surcharges; lines that exist keep theirs. The first version is 0.

    Raises
    ------
    Rejected
        When one cannot be, with the field.
    Conflict
        When they were changed since they were seen.
    """
    require(actor, Action.CHANGE_SETTINGS)
    Charging.objects.get_or_create(pk=1, defaults={"version": 0})  # one row, however many begin at once
    row = Charging.objects.select_for_update().get(pk=1)
    if row.version != version:
        raise Conflict("How work is charged was changed meanwhile. Look at it again.", current_version=row.version)
    _check_items(fields)
    for name, value in asdict(fields).items():
        setattr(row, name, value)
    row.surcharges = [_surcharge(one) for one in fields.surcharges]
    row.travel = _travel(fields.travel)
    if not 1 <= row.step_minutes <= 480 or not 0 <= row.least_minutes <= 1440:
        raise Rejected("Time is billed in steps of 1 to 480 minutes.", field="step_minutes")
    row.version += 1
    row.save()
    audit.record(
        actor=actor, now=now, action="charging", entity="charging", entity_id=row.pk, version=row.version,
        sentence="changed how labour and journeys are charged",
    )  # fmt: skip
    live.announce("pricing")
    return row


def _check_items(fields: ChargingFields) -> None:
    hours = set(Item.objects.filter(kind=ItemKind.LABOUR, unit="HUR").values_list("key", flat=True))
    wanted = {*fields.skill_items.values(), *([fields.labour_item] if fields.labour_item else [])}
    if unknown := wanted - hours:
        raise Rejected(f"{sorted(unknown)[0]} is no item for an hour of labour.", field="labour_item")
    if foreign := set(fields.skill_items) - set(skill_names()):
        raise Rejected(f"There is no skill {sorted(foreign)[0]} (any more).", field="skill_items")
    if fields.travel_item and not Item.objects.filter(key=fields.travel_item, kind=ItemKind.TRAVEL).exists():
        raise Rejected("Choose an item for journeys.", field="travel_item")


def _surcharge(stored: Mapping[str, Any]) -> dict[str, Any]:
    name = " ".join(str(stored["name"]).split())
    week = [str(text).strip() for text in stored["week"]]
    if not name:
        raise Rejected("A surcharge needs a name: the customer reads it.", field="surcharges")
    if len(week) != 7:
        raise Rejected("A week has seven days.", field="surcharges")
    try:
        _check_hours(week)
    except ValueError as error:
        raise Rejected(f"{name}: {error}.", field="surcharges") from error
    if not any(week) and not stored.get("holidays"):
        raise Rejected(f"{name}: say when it holds.", field="surcharges")
    percent = f"{stored['percent']}"
    return {"name": name[:60], "percent": percent, "week": week, "holidays": bool(stored.get("holidays"))}


def _check_hours(week: Iterable[str]) -> None:
    for text in week:
        hours_of(text)


def _travel(stored: Mapping[str, Any]) -> dict[str, Any]:
    flat = {str(area): int(amount) for area, amount in (stored.get("flat") or {}).items()}
    known = {str(key) for key in Area.objects.values_list("pk", flat=True)}
    if set(flat) - known:
        raise Rejected("One of these areas is not there (any more).", field="travel")
    found = {**stored, "flat": flat}
    travel_of(Charging(travel=found))
    return found


@transaction.atomic
def put_discount(
    *, actor: Actor, now: datetime, fields: NamedDiscountFields, discount_id: int | None = None, version: int = 0
) -> NamedDiscount:
    """A discount under a name, or another one of it: documents that exist keep theirs.

    Raises
    ------
    Rejected, Conflict, NotFound
    """
    require(actor, Action.CHANGE_SETTINGS)
    row = NamedDiscount(version=0) if discount_id is None else _locked(discount_id, version)
    name = " ".join(fields.name.split())
    try:
        Discount(name=name, percent=fields.percent, amount=fields.amount)
    except ValueError as error:
        raise Rejected(f"{error}.".capitalize(), field="name") from error
    if NamedDiscount.objects.filter(name__iexact=name).exclude(pk=row.pk).exists():
        raise Rejected(f"There is a discount called {name} already.", field="name")
    row.name, row.percent, row.amount = name, fields.percent, fields.amount
    row.valid_until, row.times, row.retired = fields.valid_until, fields.times, fields.retired
    row.key = row.key or key_for(name, set(NamedDiscount.objects.values_list("key", flat=True)))
    row.version += 1
    row.save()
    audit.record(
        actor=actor, now=now, action="discount", entity="discount", entity_id=row.pk, version=row.version,
        sentence=f"set the discount {name}",
    )  # fmt: skip
    live.announce("pricing")
    return row


def _locked(discount_id: int, version: int) -> NamedDiscount:
    row = NamedDiscount.objects.select_for_update().filter(pk=discount_id).first()
    if row is None:
        raise NotFound("There is no such discount.", code="no_discount")
    if row.version != version:
        raise Conflict(f"{row.name} was changed meanwhile. Look at it again.", current_version=row.version)
    return row


def give_discounts(keys: Iterable[str]) -> None:
    """Count that a document was agreed with these discounts. To be called in its transaction.

    What was offered holds: that one has run out meanwhile stops only what is offered after it.
    """
    wanted = NamedDiscount.objects.select_for_update().filter(key__in=set(keys)).order_by("pk")
    NamedDiscount.objects.filter(pk__in=[row.pk for row in wanted]).update(given=F("given") + 1)


def problem_of(row: NamedDiscount, day: date) -> str:
    """Why a discount cannot be given (any more) on a day; nothing when it can."""
    if row.valid_until is not None and day > row.valid_until:
        return f"The discount “{row.name}” has ended."
    if row.times is not None and row.given >= row.times:
        return f"The discount “{row.name}” was given {row.times} times already: that is all there were."
    return ""

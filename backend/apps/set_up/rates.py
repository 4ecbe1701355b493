"""Rates of labour by skill, and surcharges by the clock, from files."""

from collections.abc import Sequence
from dataclasses import replace

from apps.people.queries import skill_names
from apps.pricing import commands
from apps.pricing.charging import charging
from apps.pricing.inputs import ChargingFields
from apps.pricing.models import Item
from apps.set_up.rows import Becomes, Hand, SetUpRow, each
from core.set_up.files import DAYS
from foundation.errors import Rejected


def write_rates(hand: Hand, rows: Sequence[SetUpRow]) -> None:
    """By skill; a line without one is the usual rate."""
    skills = {name.casefold(): code for code, name in skill_names().items()}

    def write(row: SetUpRow) -> Becomes:
        item = Item.objects.filter(wording__iexact=row.text("item")).first()
        if item is None:
            raise Rejected(f"“{row.text('item')}” is not on the price list: bring that in first")
        version, now = _now()
        named = row.text("skill")
        if not named:
            return _kept(hand, version, now, replace(now, labour_item=item.key), bool(now.labour_item))
        skill = skills.get(named.casefold())
        if skill is None:
            raise Rejected(f"there is no skill “{named}”")
        rates = {**now.skill_items, skill: item.key}
        return _kept(hand, version, now, replace(now, skill_items=rates), skill in now.skill_items)

    each(rows, write)


def write_surcharges(hand: Hand, rows: Sequence[SetUpRow]) -> None:
    """By name; hours like "18:00-22:00" for each day of the week."""

    def write(row: SetUpRow) -> Becomes:
        version, now = _now()
        name = row.text("name")
        stored = {
            "name": name, "percent": f"{row.cells['percent'].normalize():f}",
            "week": [row.text(day) for day in DAYS], "holidays": bool(row.get("holidays", False)),
        }  # fmt: skip
        names = [str(one["name"]).casefold() for one in now.surcharges]
        known = name.casefold() in names
        at = names.index(name.casefold()) if known else len(names)
        wanted = [*now.surcharges[:at], stored, *now.surcharges[at + 1 :]]
        return _kept(hand, version, now, replace(now, surcharges=wanted), known)

    each(rows, write)


def _now() -> tuple[int, ChargingFields]:
    """The rules as they are, with their version."""
    row = charging()
    return row.version, ChargingFields(**{name: getattr(row, name) for name in ChargingFields.__dataclass_fields__})


def _kept(hand: Hand, version: int, now: ChargingFields, wanted: ChargingFields, is_known: bool) -> Becomes:
    if wanted == now:
        return Becomes.SAME
    commands.put_charging(**hand.how, version=version, fields=wanted)
    return Becomes.CHANGE if is_known else Becomes.NEW

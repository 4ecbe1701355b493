"""Adding, renaming, retiring and merging what a company names."""

from dataclasses import dataclass
from datetime import datetime
from typing import TypeVar

from django.db import transaction

from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected
from foundation.named.rows import Named, called
from foundation.named.uses import uses_of

Kind = TypeVar("Kind", bound=Named)


@dataclass(frozen=True)
class Used:
    """How many of what hold a key."""

    what: str
    count: int


def listed(model: type[Kind]) -> list[Kind]:
    """All that were not merged into another, by name."""
    return list(model._default_manager.filter(merged_into="").order_by("name"))


def used_by(model: type[Named], code: str) -> list[Used]:
    """Who holds this key, most first; nothing of those of whom nobody does."""
    _found(model, code)
    counted = [Used(use.what, use.count(code)) for use in uses_of(model)]
    return sorted((row for row in counted if row.count), key=lambda row: -row.count)


@transaction.atomic
def add(model: type[Kind], *, actor: Actor, now: datetime, name: str) -> Kind:
    """The one of that name; made if there is none, and offered again if it was retired."""
    require(actor, Action.CHANGE_SETTINGS)
    if not name.strip():
        raise Rejected("A name is needed.", field="name")
    found, made = called(model, name)
    if made:
        _tell(actor, now, found, "make", f"made the {_thing(model)} {found.name}")
    elif found.retired:
        found = change(
            model, actor=actor, now=now, code=found.code, version=found.version, name=found.name, retired=False
        )
    return found


@transaction.atomic
def change(
    model: type[Kind], *, actor: Actor, now: datetime, code: str, version: int, name: str, retired: bool
) -> Kind:
    """Another name, or not offered any more. Whoever holds the key goes on holding it.

    Raises
    ------
    Conflict
        When it was changed since it was seen.
    Rejected
        When the name is empty or something else of the kind has it.
    """
    require(actor, Action.CHANGE_SETTINGS)
    row = _locked(model, code, version)
    name = " ".join(name.split())
    if not name:
        raise Rejected("A name is needed.", field="name")
    if (twin := model._default_manager.filter(name__iexact=name).exclude(pk=row.pk).first()) is not None:
        hint = "it was merged into another one" if twin.merged_into else "merge the two if they are the same"
        raise Rejected(f"There is a {_thing(model)} {twin.name} already: {hint}.", field="name")
    said = [f"renamed the {_thing(model)} {row.name} to {name}"] if row.name != name else []
    if row.retired != retired:
        said.append(f"{'retired' if retired else 'took back'} the {_thing(model)} {name}")
    if said:
        row.name, row.retired, row.version = name, retired, row.version + 1
        row.save(update_fields=["name", "retired", "version"])
        _tell(actor, now, row, "change", " and ".join(said))
    return row


@transaction.atomic
def merge(model: type[Kind], *, actor: Actor, now: datetime, code: str, version: int, into: str) -> Kind:
    """Make two into one: whoever holds the first key holds the second from now on. Answers the one that is kept.

    Raises
    ------
    Conflict
        When the first was changed since it was seen.
    NotFound, Rejected
        When there is no such other one, or it is the same.
    """
    require(actor, Action.CHANGE_SETTINGS)
    if code == into:
        raise Rejected("That is the same one: choose another to merge it into.", field="into")
    # Locked in the order of their keys, so that two opposed merges wait for each other instead of for ever.
    both = model._default_manager.select_for_update().filter(code__in=[code, into]).order_by("code")
    rows = {row.code: row for row in both}
    gone, kept = _usable(model, rows.get(code)), _usable(model, rows.get(into))
    _check_version(gone, version)
    held = used_by(model, code)
    for use in uses_of(model):
        use.replace(code, into)
    model._default_manager.filter(merged_into=code).update(merged_into=into)
    gone.merged_into, gone.retired, gone.version = into, True, gone.version + 1
    gone.save(update_fields=["merged_into", "retired", "version"])
    who = ", ".join(f"{row.count} {row.what}" for row in held) or "nobody held it"
    _tell(actor, now, gone, "merge", f"merged the {_thing(model)} {gone.name} into {kept.name} ({who})")
    return kept


def _locked(model: type[Kind], code: str, version: int) -> Kind:
    row = _usable(model, model._default_manager.select_for_update().filter(code=code).first())
    _check_version(row, version)
    return row


def _found(model: type[Kind], code: str) -> Kind:
    return _usable(model, model._default_manager.filter(code=code).first())


def _usable(model: type[Kind], row: Kind | None) -> Kind:
    if row is None or row.merged_into:
        raise NotFound(f"There is no such {_thing(model)} (any more).", code="not_named")
    return row


def _check_version(row: Named, version: int) -> None:
    if row.version != version:
        newest = audit.since(_thing(type(row)), row.pk, version)
        who = f"{newest[0].actor_name} has" if newest else "Somebody has"
        raise Conflict(f"{who} changed it meanwhile. Look at it again.", current_version=row.version)


def _thing(model: type[Named]) -> str:
    return str(model._meta.verbose_name)


def _tell(actor: Actor, now: datetime, row: Named, action: str, sentence: str) -> None:
    audit.record(
        actor=actor, now=now, action=action, entity=_thing(type(row)), entity_id=row.pk, version=row.version,
        sentence=sentence[:300],
    )  # fmt: skip
    live.announce("names")

"""Roles the company puts together from the actions of the table. They hold from the next thing their people do."""

from collections.abc import Collection
from datetime import datetime

from django.db import transaction

from apps.accounts.inputs import RoleFields
from apps.company.models import Area, Depot
from apps.people.models import OwnRole
from core.roles import WHOLE_COMPANY, WORDS, Action, Role, composed
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected


@transaction.atomic
def make_role(*, actor: Actor, now: datetime, fields: RoleFields) -> OwnRole:
    """A new role.

    Raises
    ------
    Rejected
        Without a name or an action, or when it is narrowed and may do what holds for the whole company.
    """
    require(actor, Action.MANAGE_ACCOUNTS)
    return _write(actor, now, OwnRole(version=0), fields)


@transaction.atomic
def change_role(*, actor: Actor, now: datetime, role_id: int, version: int, fields: RoleFields) -> OwnRole:
    """Another name, other actions, another reach: everybody who has the role has the new one.

    Raises
    ------
    Conflict
        When somebody else changed the role since it was seen.
    Rejected
        As for `make_role`.
    """
    require(actor, Action.MANAGE_ACCOUNTS)
    return _write(actor, now, _locked(role_id, version), fields)


@transaction.atomic
def remove_role(*, actor: Actor, now: datetime, role_id: int) -> None:
    """Take a role away that nobody has.

    Raises
    ------
    Rejected
        When somebody has it, with their names.
    """
    require(actor, Action.MANAGE_ACCOUNTS)
    role = _locked(role_id)
    if holders := list(role.accounts.order_by("name").values_list("name", flat=True)):
        raise Rejected(f"{', '.join(holders)} still has this role: give them another one first.", code="in_use")
    _tell(actor, now, role, f"removed the role {role.name}")
    role.delete()


def _locked(role_id: int, version: int | None = None) -> OwnRole:
    role = OwnRole.objects.select_for_update().filter(pk=role_id).first()
    if role is None:
        raise NotFound("There is no such role.", code="no_role")
    if version not in (None, role.version):
        raise Conflict(f"{role.name} was changed meanwhile. Look at it again.", current_version=role.version)
    return role


def _write(actor: Actor, now: datetime, role: OwnRole, fields: RoleFields) -> OwnRole:
    name = " ".join(fields.name.split())
    _check_name(role, name)
    actions = _checked(fields)
    areas, depots = _known(Area, fields.area_ids, "area"), _known(Depot, fields.depot_ids, "depot")
    did = "changed" if role.pk else "made"
    role.name, role.duty, role.actions = name, fields.duty.strip(), actions
    role.version += 1
    role.save()
    role.areas.set(areas)
    role.depots.set(depots)
    _tell(actor, now, role, f"{did} the role {name}", actions=actions, areas=sorted(areas), depots=sorted(depots))
    return role


def _check_name(role: OwnRole, name: str) -> None:
    if not name:
        raise Rejected("A role needs a name.", field="name")
    if name.casefold() in {known.value for known in Role}:
        raise Rejected(f"There is a role called {name.casefold()} already.", field="name")
    if OwnRole.objects.filter(name__iexact=name).exclude(pk=role.pk).exists():
        raise Rejected(f"There is a role called {name} already.", field="name")


def _checked(fields: RoleFields) -> list[str]:
    try:
        actions = composed(fields.actions)
    except ValueError as error:
        raise Rejected(f"{error}.", field="actions") from error
    if actions.isdisjoint((Action.SEE_ORDERS, Action.WORK_IN_FIELD)):
        raise Rejected(
            "It has to see work orders, or work from the phone: else there is no page for it.", field="actions"
        )
    whole = sorted(actions & WHOLE_COMPANY)
    if whole and (fields.area_ids or fields.depot_ids):
        raise Rejected(
            f"Who may {WORDS[whole[0]]} does so for the whole company: narrow it no further.", field="actions"
        )
    return sorted(action.value for action in actions)


def _known(model: type[Area] | type[Depot], ids: Collection[int], what: str) -> set[int]:
    wanted = set(ids)
    if wanted - set(model.objects.filter(pk__in=wanted).values_list("pk", flat=True)):
        raise Rejected(f"There is no such {what} (any more).", field=f"{what}_ids")
    return wanted


def _tell(actor: Actor, now: datetime, role: OwnRole, sentence: str, **changes: object) -> None:
    audit.record(
        actor=actor, now=now, action="role", entity="role", entity_id=role.pk, version=role.version, sentence=sentence,
        **changes,
    )  # fmt: skip
    live.announce("account", ids=[])

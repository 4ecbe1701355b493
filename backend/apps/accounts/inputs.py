"""What is handed to the commands of accounts."""

from collections.abc import Collection
from dataclasses import dataclass

from core.roles import Action, Role


@dataclass(frozen=True, kw_only=True)
class AccountFields:
    """What is set up of an account; a technician works from the phone with it. With the role "own": which."""

    name: str
    role: Role
    technician_id: int | None = None
    own_role_id: int | None = None


@dataclass(frozen=True, kw_only=True)
class RoleFields:
    """A role of the company's own; without areas or depots it reaches everywhere."""

    name: str
    duty: str = ""
    actions: Collection[Action] = ()
    area_ids: Collection[int] = ()
    depot_ids: Collection[int] = ()

"""Wire shapes of accounts."""

from typing import Annotated, Self

from ninja import Field, Schema

from apps.accounts.inputs import AccountFields, RoleFields
from apps.people.models import Account, OwnRole
from core.roles import Action, Role
from foundation.schemas import Text

_Id = Annotated[int, Field(ge=1, le=2**62)]


class AccountFieldsIn(Schema):
    """`technician_id`: as whom they work from the phone; `own_role_id`: with the role "own", which."""

    name: Text = Field(max_length=120)
    role: Role
    technician_id: _Id | None = None
    own_role_id: _Id | None = None

    def fields(self) -> AccountFields:
        return AccountFields(
            name=self.name, role=self.role, technician_id=self.technician_id, own_role_id=self.own_role_id
        )


class InviteIn(AccountFieldsIn):
    email: Text = Field(max_length=254)


class AccountChangeIn(AccountFieldsIn):
    version: int = Field(ge=1, le=2**31 - 1)


class HelpIn(Schema):
    """`because` is what the other reads."""

    because: Text = Field("", max_length=300)


class ActiveIn(Schema):
    version: int = Field(ge=1, le=2**31 - 1)
    active: bool


class AccountRowOut(Schema):
    """`joined`: has chosen a password or come in by the directory; `last_seen`: last sign-in, epoch seconds."""

    id: int
    version: int
    name: str
    email: str
    role: Role
    role_name: str
    own_role_id: int | None
    technician_id: int | None
    active: bool
    joined: bool
    second_factor: bool
    last_seen: int | None

    @classmethod
    def of(cls, row: Account) -> Self:
        return cls(
            id=row.pk, version=row.version, name=row.name, email=row.email, role=Role(row.role),
            role_name=row.role_name, own_role_id=row.own_role_id, technician_id=row.technician_id,
            active=row.is_active, joined=row.has_usable_password() or row.last_login is not None,
            second_factor=bool(getattr(row, "second_factor", False)),
            last_seen=int(row.last_login.timestamp()) if row.last_login else None,
        )  # fmt: skip


class InvitationOut(Schema):
    """The link of an invitation, to be told in another way than by e-mail."""

    link: str


class DeedOut(Schema):
    """An action in words: the end of a sentence that begins with "may". `brings`: what it needs and brings along;
    `whole_company`: not for a role that is narrowed; `own`: may be part of a role of one's own."""

    action: Action
    words: str
    brings: list[Action]
    whole_company: bool
    own: bool


class RoleOut(Schema):
    """What a role may do."""

    role: Role
    duty: str
    actions: list[Action]


class OwnRoleOut(Schema):
    """A role of the company's own; `holders` is who has it."""

    id: int
    version: int
    name: str
    duty: str
    actions: list[Action]
    area_ids: list[int]
    depot_ids: list[int]
    holders: list[str]

    @classmethod
    def of(cls, row: OwnRole) -> Self:
        return cls(
            id=row.pk, version=row.version, name=row.name, duty=row.duty,
            actions=[Action(action) for action in row.actions], area_ids=[area.pk for area in row.areas.all()],
            depot_ids=[depot.pk for depot in row.depots.all()],
            holders=sorted(account.name for account in row.accounts.all()),
        )  # fmt: skip


class RolesOut(Schema):
    """Everything an account may be given, and what each may do."""

    deeds: list[DeedOut]
    roles: list[RoleOut]
    own: list[OwnRoleOut]


class OwnRoleIn(Schema):
    """`actions` bring along what they need. Without areas and depots the role reaches everywhere."""

    name: Text = Field(max_length=60)
    duty: Text = Field("", max_length=120)
    actions: list[Action] = Field([], max_length=40)
    area_ids: list[_Id] = Field([], max_length=500)
    depot_ids: list[_Id] = Field([], max_length=500)

    def fields(self) -> RoleFields:
        return RoleFields(
            name=self.name, duty=self.duty, actions=self.actions, area_ids=self.area_ids, depot_ids=self.depot_ids
        )


class OwnRoleChangeIn(OwnRoleIn):
    version: int = Field(ge=1, le=2**31 - 1)

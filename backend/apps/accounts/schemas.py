"""Wire shapes of accounts."""

from typing import Annotated, Self

from ninja import Field, Schema

from apps.accounts.inputs import AccountFields
from apps.people.models import Account
from core.roles import Role
from foundation.schemas import Text

_TechnicianKey = Annotated[int, Field(ge=1, le=2**62)]


class AccountFieldsIn(Schema):
    """`technician_id`: as whom they work from the phone."""

    name: Text = Field(max_length=120)
    role: Role
    technician_id: _TechnicianKey | None = None

    def fields(self) -> AccountFields:
        return AccountFields(name=self.name, role=self.role, technician_id=self.technician_id)


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
    """`joined`: has chosen a password; `last_seen`: last sign-in, epoch seconds."""

    id: int
    version: int
    name: str
    email: str
    role: Role
    technician_id: int | None
    active: bool
    joined: bool
    second_factor: bool
    last_seen: int | None

    @classmethod
    def of(cls, row: Account) -> Self:
        return cls(
            id=row.pk, version=row.version, name=row.name, email=row.email, role=Role(row.role),
            technician_id=row.technician_id, active=row.is_active, joined=row.has_usable_password(),
            second_factor=bool(getattr(row, "second_factor", False)),
            last_seen=int(row.last_login.timestamp()) if row.last_login else None,
        )  # fmt: skip


class InvitationOut(Schema):
    """The link of an invitation, to be told in another way than by e-mail."""

    link: str


class RoleOut(Schema):
    """What a role may do and may not, in words."""

    role: Role
    duty: str
    may: list[str]
    may_not: list[str]

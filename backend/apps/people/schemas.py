"""Wire shapes of people."""

from datetime import datetime

from ninja import Field, Schema

from core.roles import Action, Role


class SignIn(Schema):
    email: str = Field(max_length=254)
    password: str = Field(max_length=200)


class AccountOut(Schema):
    id: int
    name: str
    email: str
    role: Role
    technician_id: int | None


class SessionOut(Schema):
    """`account` is None while signed out. `now` is the application's clock."""

    account: AccountOut | None
    may: list[Action]
    csrf_token: str
    now: datetime
    demo: bool


class DemoAccountOut(Schema):
    name: str
    email: str
    role: Role
    technician_id: int | None


class DemoOut(Schema):
    password: str
    accounts: list[DemoAccountOut]


class SkillOut(Schema):
    code: str
    name: str


class TechnicianOut(Schema):
    id: int
    name: str

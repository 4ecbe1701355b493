"""Wire shapes of reminders in the office. Times are epoch seconds."""

from typing import Literal, Self

from ninja import Field, Schema

from apps.board.models import Reminder
from foundation.moments import Moment
from foundation.schemas import Text


class OfficeReminderOut(Schema):
    """Something somebody in the office is to think of; `about` names the record by kind and number."""

    id: int
    version: int
    at: int
    text: str
    made_by: str
    done: bool
    account_id: int
    person: str
    about: str
    about_id: int | None

    @classmethod
    def of(cls, row: Reminder) -> Self:
        return cls(
            id=row.pk, version=row.version, at=int(row.at.timestamp()), text=row.text, made_by=row.made_by,
            done=row.done_at is not None, account_id=row.person_id or 0, person=row.person.name if row.person else "",
            about=row.about, about_id=row.about_id,
        )  # fmt: skip


class OfficeReminderIn(Schema):
    """`account_id`: before whom; None: before oneself."""

    at: Moment
    text: Text = Field(max_length=200)
    account_id: int | None = Field(None, ge=1, le=2**62)


class OwnReminderIn(OfficeReminderIn):
    """About an order, or about nothing that is known here."""

    about: Literal["", "order"] = ""
    about_id: int | None = Field(None, ge=1, le=2**62)


class OfficeReminderChangeIn(Schema):
    version: int = Field(ge=1, le=2**31 - 1)
    at: Moment
    text: Text = Field(max_length=200)
    done: bool

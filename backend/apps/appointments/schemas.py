"""Wire shapes of offering a time. Times are epoch seconds."""

from datetime import date
from typing import Annotated, Literal

from ninja import Field, Schema

from apps.intake.schemas import PromiseIn, PromiseOut, RequestIn
from apps.orders.inputs import Conditions
from apps.orders.schemas import Version
from foundation.schemas import Text

Id = Annotated[int, Field(ge=1, le=2**62)]


class WishIn(Schema):
    """What the caller wishes; nothing said: any time."""

    not_before: date | None = None
    not_after: date | None = None
    weekdays: list[Annotated[int, Field(ge=0, le=6)]] = Field(default_factory=list, max_length=7)
    part: Literal["", "morning", "afternoon"] = ""


class OffersIn(RequestIn):
    """The call as far as it is typed."""

    what_is_wrong: Text = Field("", max_length=8000)
    wish: WishIn = WishIn()
    crew: int | None = Field(None, ge=1, le=8)
    # A request that came in before and is being completed.
    request_id: Id | None = None


class VisitOffersIn(Schema):
    wish: WishIn = WishIn()


class NamedTechnicianOut(Schema):
    id: int
    name: str


class MoveOut(Schema):
    visit_id: int
    label: str


class OfferOut(Schema):
    """A window that can be kept. `parts` are points by what gives them; `moves` what has to make room."""

    start: int
    end: int
    score: int
    parts: dict[str, int]
    recommended: bool
    reasons: list[str]
    starts_at: int
    technicians: list[NamedTechnicianOut]
    moves: list[MoveOut]


class RemedyOut(Schema):
    start: int
    end: int
    sentence: str


class FirstOut(Schema):
    """Somebody who could be there first."""

    technician_id: int
    name: str
    start: int
    drive_seconds: int
    doing: str


class UrgentOut(Schema):
    """Work that has to be responded to sooner than any window: until when, and who could be there first."""

    respond_by: int
    minutes: int
    first: list[FirstOut]


class OffersOut(Schema):
    """Windows best first; and where there are none, why, and what would make one possible."""

    offers: list[OfferOut]
    shown: int
    looked_at: int
    refusals: list[str]
    remedies: list[RemedyOut]
    milliseconds: int
    # Whether windows are weighed against each other at all.
    recommend: bool
    urgent: UrgentOut | None


class StandbyIn(Schema):
    """When an earlier time would suit."""

    not_before: date | None = None
    weekdays: list[Annotated[int, Field(ge=0, le=6)]] = Field(default_factory=list, max_length=7)
    part: Literal["", "morning", "afternoon"] = ""
    notice_minutes: int = Field(60, ge=0, le=7 * 1440)
    words: Text = Field("", max_length=200)

    def conditions(self) -> Conditions:
        return Conditions(**self.dict(exclude={"version", "tell"}))


class StandbyChangeIn(StandbyIn):
    version: int = Version
    tell: bool = True


class BookIn(RequestIn):
    """A whole call: what is wanted, what is known of the order, and the window that was taken."""

    window: PromiseIn | None = None
    assign: bool = False
    standby: StandbyIn | None = None
    tell: bool = True
    request_id: Id | None = None
    version: int | None = Field(None, ge=1, le=2**31 - 1)


class BookedOut(Schema):
    request: str
    order_id: int
    order: str
    visit_id: int
    promise: PromiseOut | None
    technician: str | None


class TakeIn(Schema):
    version: int = Version
    window: PromiseIn
    assign: bool = False
    tell: bool = True

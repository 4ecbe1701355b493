"""Wire shapes of a technician's day besides its visits. Times are epoch seconds."""

from datetime import date
from typing import Annotated, Any, Self

from ninja import Field, Schema

from apps.board.directions import Drive
from apps.board.models import Printout
from apps.orders.schemas import Version
from foundation.moments import Moment
from foundation.schemas import Text

Id = Annotated[int, Field(ge=1, le=2**62)]


class ReminderIn(Schema):
    technician_id: Id
    at: Moment
    text: Text = Field(max_length=200)


class ReminderChangeIn(Schema):
    version: int = Version
    at: Moment
    text: Text = Field(max_length=200)
    done: bool = False


class LockIn(Schema):
    pinned: bool


class LockDaysIn(LockIn):
    """Days from `day` on, of everybody or of one technician."""

    day: date
    days: int = Field(1, ge=1, le=14)
    technician_id: Id | None = None


class LockedOut(Schema):
    changed: int


class TogetherOut(Schema):
    """Technicians, and how many visits they finished together."""

    members: list[int]
    visits: int


class WayOut(Schema):
    """A stretch of one street; without a name where the map has none."""

    street: str
    metres: int
    turn: str


class DriveOut(Schema):
    """A drive; `visit_id` is where it leads, null is home. `estimated`: there is no road on the map."""

    visit_id: int | None
    leads_to: str
    address: str
    leaves: int
    seconds: int
    metres: int
    estimated: bool
    ways: list[WayOut]


def drive_out(row: Drive) -> dict[str, Any]:
    return {
        "visit_id": row.visit_id, "leads_to": row.leads_to, "address": row.address, "leaves": row.leaves,
        "seconds": row.seconds, "metres": row.metres, "estimated": row.estimated,
        "ways": [{"street": way.street, "metres": way.metres, "turn": way.turn} for way in row.ways],
    }  # fmt: skip


class PrintoutIn(Schema):
    day: date


class PrintoutOut(Schema):
    """Papers being printed: `share` of them is done (0-1), of `orders` work orders."""

    id: int
    day: date
    state: str
    share: float
    orders: int
    failure: str

    @classmethod
    def of(cls, row: Printout) -> Self:
        return cls(
            id=row.pk, day=row.day, state=row.state, share=row.share, orders=row.pages_of, failure=row.failure
        )  # fmt: skip

"""Times on the wire are whole seconds since the epoch (UTC); in the database they are datetimes."""

from datetime import UTC, datetime
from typing import Annotated

from pydantic import Field

# From 2000 to 2100: anything else is a slip, not a date of work.
Moment = Annotated[int, Field(ge=946_684_800, le=4_102_444_800, description="Seconds since the epoch, UTC")]


def to_datetime(moment: int) -> datetime:
    return datetime.fromtimestamp(moment, UTC)


def to_moment(at: datetime | None) -> int | None:
    return None if at is None else int(at.timestamp())

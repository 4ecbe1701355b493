"""What happens to visits, for those who listen."""

from dataclasses import dataclass
from datetime import datetime

from apps.orders.models import Visit
from core.orders import Step


@dataclass(frozen=True, kw_only=True)
class VisitStepped:
    """A step was taken. `told_technician_id` had been told something that this step made untrue."""

    visit: Visit
    step: Step
    at: datetime
    note: str
    told_technician_id: int | None = None
    told_mates: tuple[int, ...] = ()


@dataclass(frozen=True, kw_only=True)
class TimePromised:
    """A window was taken; the customer is to be told."""

    visit: Visit
    at: datetime


@dataclass(frozen=True, kw_only=True)
class PutOnStandby:
    """The customer would come forward, and is told that we know."""

    visit: Visit
    at: datetime

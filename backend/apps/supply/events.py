"""What happens to parts, for those who listen."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

from apps.orders.models import Visit
from apps.supply.models import Loan, PurchaseOrder
from foundation.actors import Actor


@dataclass(frozen=True, kw_only=True)
class HandOverPlanned:
    """Somebody is to bring a part along for a colleague: whom to tell, in which words. `visit` is the stop at which it
    changes hands."""

    technician_id: int
    visit: Visit
    words: str
    at: datetime


@dataclass(frozen=True, kw_only=True)
class PartsArrived:
    """What a visit on hold waited for has come: it is back in the backlog, and the customer is to be offered a time."""

    visit: Visit
    words: str
    at: datetime


@dataclass(frozen=True, kw_only=True)
class LoanDue:
    """A loan that is due, or past it: whoever has it is to be asked."""

    loan: Loan
    words: str
    at: datetime


@dataclass(frozen=True, kw_only=True)
class LinesDropped:
    """Nothing more comes by these lines of a purchase order, by their ids: they were taken off, or called off."""

    order: PurchaseOrder
    line_ids: Sequence[int]
    at: datetime
    actor: Actor


@dataclass(frozen=True, kw_only=True)
class PurchaseReceived:
    """A purchase order was received, in part or whole: what came, by id of the line."""

    order: PurchaseOrder
    came: Mapping[int, int]
    at: datetime
    actor: Actor

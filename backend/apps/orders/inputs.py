"""What commands take."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime
from typing import Any
from uuid import UUID

from apps.catalogue.filling import Work
from apps.catalogue.models import JobType
from apps.customers.models import Customer, Site
from apps.intake.models import Request
from apps.orders.models import Origin
from apps.pricing.inputs import DiscountFields, LineFields
from core.basics import Place
from core.orders import VisitState


@dataclass(frozen=True, kw_only=True)
class Conditions:
    """When an earlier time would suit.

    `not_before` a day, `weekdays` (Monday is 0; none: any), `part` "morning", "afternoon" or "" for either,
    `notice_minutes` how long before the customer must be called.
    """

    not_before: date | None = None
    weekdays: Sequence[int] = ()
    part: str = ""
    notice_minutes: int = 60
    words: str = ""


@dataclass(frozen=True, kw_only=True)
class VisitFields:
    """What can be edited on a visit, besides its placement and state. `needs` is a level by key of the skill, `takes` a
    quantity by key of the part."""

    duration_seconds: int | None
    priority: int
    needs: Mapping[str, int]
    promise: tuple[datetime, datetime] | None
    earliest: datetime | None
    due: datetime | None
    notes: str
    pinned: bool
    worth: int | None
    # None: as they are.
    crew: int | None = None
    title: str | None = None
    takes: Mapping[str, int] | None = None


@dataclass(frozen=True, kw_only=True)
class OrderFields:
    """What can be edited of an order. At most one of `payer_id` and `payer_address`; none: the customer pays."""

    title: str
    description: str = ""
    asset_id: int | None = None
    more_asset_ids: Sequence[int] = ()
    payer_id: int | None = None
    payer_address: str = ""
    contact_name: str = ""
    contact_phone: str = ""
    source: str = ""
    billing: str = "billable"
    po_number: str = ""
    priority: int = 3
    tags: Sequence[str] = ()
    technician_note: str = ""
    invoice_text: str = ""
    extra: Mapping[str, Any] = field(default_factory=dict)


@dataclass(frozen=True, kw_only=True)
class NewOrder:
    """An order to be made. `promise` is that of its first visit; `request` is given where it came from one.

    `lines` are kept ones that were agreed already; None: those of the job type, the journey, what the clock adds.
    `earliest` is that of its first visit. `ours`: nobody but ourselves is served by it, so nothing is asked of it that
    is asked of customers' orders.
    """

    origin: Origin
    customer: Customer
    site: Site
    job_type: JobType | None
    fields: OrderFields
    work: Work
    promise: tuple[datetime | None, datetime | None] = (None, None)
    earliest: datetime | None = None
    request: Request | None = None
    lines: Sequence[Mapping[str, Any]] | None = None
    discounts: Sequence[Mapping[str, Any]] = ()
    ours: bool = False


@dataclass(frozen=True, kw_only=True)
class OneOff:
    """A job that is agreed already, all of it said at once. What is None is filled in as for any work. No time is
    promised here: whether one can be kept is for planning to say.

    Attributes
    ----------
    fields : its `priority` is not read, but that here.
    duration_seconds : of the whole job, with all of its crew there.
    days : over how many days it is spread.
    lines : as typed; None: what such work costs.
    """

    site_id: int
    fields: OrderFields
    job_type_id: int | None = None
    duration_seconds: int | None = None
    needs: Mapping[str, int] | None = None
    crew: int | None = None
    priority: int | None = None
    days: int = 1
    earliest: datetime | None = None
    due: datetime | None = None
    lines: Sequence[LineFields] | None = None
    discounts: Sequence[DiscountFields] = ()


@dataclass(frozen=True, kw_only=True)
class Placement:
    """Who does a visit, and when it starts. `mates` go with the technician; None: as they are.

    More mates than the visit has a crew for make its crew larger: a standing crew goes whole.
    """

    technician_id: int
    start: datetime
    mates: Sequence[int] | None = None


@dataclass(frozen=True, kw_only=True)
class Base:
    """A visit as somebody saw it: its state, and when it was to begin (epoch seconds; None: that does not matter)."""

    state: VisitState
    start: int | None = None


@dataclass(frozen=True, kw_only=True)
class Deed:
    """Something done in the field, as whoever did it tells of it; it may be sent late, and twice.

    Attributes
    ----------
    key : given by the sender; the same one again does nothing. None: made here.
    happened_at : when it was done; None: now.
    based_on : the visit as it was seen. Where it is said, other changes meanwhile do not stand in the way.
    where, accuracy_metres : where the phone was, if it knew.
    """

    key: UUID | None = None
    happened_at: datetime | None = None
    based_on: Base | None = None
    where: Place | None = None
    accuracy_metres: float | None = None

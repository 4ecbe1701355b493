"""What the commands of quotes take."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from decimal import Decimal

from apps.pricing.inputs import DiscountFields, LineFields


@dataclass(frozen=True, kw_only=True)
class OptionFields:
    """One way to do it. `duration_seconds` and `crew` are those of the visit it would become; None: as the job type."""

    key: str
    name: str = ""
    summary: str = ""
    lines: Sequence[LineFields] = ()
    discounts: Sequence[DiscountFields] = ()
    duration_seconds: int | None = None
    crew: int | None = None


@dataclass(frozen=True, kw_only=True)
class ContentFields:
    """What is offered, in words and lines; at most one of `deposit_percent` and `deposit_amount`. `days`: for how many
    the quote is valid once it was sent. `technician_note` is for whoever does it, and no customer reads it."""

    scope: str = ""
    introduction: str = ""
    closing: str = ""
    terms: str = ""
    technician_note: str = ""
    days: int = 30
    deposit_percent: Decimal = Decimal(0)
    deposit_amount: int = 0
    pictures: Sequence[int] = ()
    options: Sequence[OptionFields] = ()


@dataclass(frozen=True, kw_only=True)
class NewQuote:
    """For whom, and about what. What is None is taken from what it begins with: a request, an order or a visit."""

    customer_id: int | None = None
    site_id: int | None = None
    asset_id: int | None = None
    job_type_id: int | None = None
    request_id: int | None = None
    order_id: int | None = None
    visit_id: int | None = None
    title: str = ""
    scope: str = ""


@dataclass(frozen=True, kw_only=True)
class QuoteFields:
    """What can be edited of a draft."""

    title: str
    site_id: int | None
    asset_id: int | None
    job_type_id: int | None
    contact_name: str
    contact_email: str
    contact_phone: str
    note: str
    chance: int
    extra_work: bool
    content: ContentFields


@dataclass(frozen=True, kw_only=True)
class Approval:
    """What the customer agreed to. `digest` is of the version that was read, `gross` the total that was shown."""

    option: str
    ticked: Sequence[str]
    name: str
    drawing: bytes | None
    digest: str
    gross: int
    accepts_terms: bool
    address: str
    at: datetime

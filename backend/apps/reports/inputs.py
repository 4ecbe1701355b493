"""What commands take."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any, Literal
from uuid import UUID

from core.reports import Acceptance, Sort

Reader = Literal["self", "office", "customer"]


@dataclass(frozen=True, kw_only=True)
class AnswerFields:
    """An answer of the form. `value` None: there is none any more. `sure`: a number is right though out of bounds."""

    key: str
    value: Any
    sure: bool = False


@dataclass(frozen=True, kw_only=True)
class PictureFields:
    """What is told of a photo or signature before it comes itself. `size` in bytes."""

    id: UUID
    kind: Literal["photo", "signature"]
    size: int
    media_type: str
    caption: str = ""
    pair: Literal["", "before", "after"] = ""
    question: str = ""
    original: UUID | None = None


@dataclass(frozen=True, kw_only=True)
class AcceptanceFields:
    """How the customer took it; `shown` is what they saw, a line each."""

    acceptance: Acceptance
    signature: UUID | None = None
    shown: Sequence[str] = ()


@dataclass(frozen=True, kw_only=True)
class Doing:
    """Whose doing it was, at which visit, and when it was done there."""

    visit_id: int
    technician_id: int
    at: datetime


@dataclass(frozen=True, kw_only=True)
class UsedPartFields:
    """See apps.reports.models.UsedPart. `place_id` None and `elsewhere` empty: the technician's own van."""

    id: UUID
    code: str
    quantity: int
    serials: Sequence[str] = ()
    batch: str = ""
    place_id: int | None = None
    elsewhere: str = ""


@dataclass(frozen=True, kw_only=True)
class RemovedPartFields:
    """See apps.reports.models.RemovedPart. `code` empty: it is none of ours."""

    id: UUID
    code: str = ""
    words: str = ""
    quantity: int = 1
    serial: str = ""
    what: Literal["defective", "kept", "thrown away"]
    because: str = ""


@dataclass(frozen=True, kw_only=True)
class TimeFields:
    """How long somebody travelled or worked; `minutes` None: as the stamps tell it."""

    technician_id: int
    sort: Sort
    minutes: int | None
    reason: str = ""


@dataclass(frozen=True, kw_only=True)
class ChargeFields:
    """See apps.reports.models.Charge."""

    id: UUID
    item: str = ""
    words: str = ""
    quantity: int = 1000

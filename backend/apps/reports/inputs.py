"""What commands take."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any, Literal
from uuid import UUID

from core.reports import Acceptance

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

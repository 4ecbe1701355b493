"""What the phone sends."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from apps.orders.inputs import Base
from core.basics import Place


@dataclass(frozen=True, kw_only=True)
class SentDeed:
    """Something that was done, as the phone tells of it; see apps.field.models.FieldDeed.

    Attributes
    ----------
    previous : the deed before it of the same visit (or of the day) on the same phone: it has to be known first.
    technician_id : whose doing it was; None: whose phone it comes from.
    """

    id: UUID
    number: int
    previous: UUID | None
    kind: str
    visit_id: int | None
    body: Mapping[str, Any]
    based_on: Base | None
    happened_at: datetime
    device_at: datetime
    where: Place | None = None
    accuracy_metres: float | None = None
    technician_id: int | None = None

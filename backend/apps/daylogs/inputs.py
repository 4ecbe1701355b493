"""What commands of day logs take."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any
from uuid import UUID

from core.basics import Place


@dataclass(frozen=True, kw_only=True)
class OfDay:
    """Whose day, which one, and when it was done."""

    technician_id: int
    day: date
    at: datetime
    where: Place | None = None


@dataclass(frozen=True, kw_only=True)
class VehicleFields:
    """What is driven, and what its odometer said in the morning and in the evening; None: as it is."""

    vehicle_id: int | None = None
    odometer_began: int | None = None
    odometer_ended: int | None = None
    checks: Mapping[str, Any] | None = None


@dataclass(frozen=True, kw_only=True)
class FuelFields:
    """See apps.daylogs.models.Fuel. `size`: of the receipt's photo, which comes later; 0: there is none."""

    id: UUID
    millilitres: int
    amount: int
    size: int = 0

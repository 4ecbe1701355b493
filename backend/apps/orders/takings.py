"""What planned visits will take."""

from collections.abc import Mapping
from dataclasses import dataclass


@dataclass(frozen=True, kw_only=True, slots=True)
class Taking:
    """Who will take which parts, by code, for a visit that is not finished; `start` as planned, `order` as it has
    begun, where it has (epoch seconds)."""

    visit_id: int
    technician_id: int
    start: int
    order: int
    takes: Mapping[str, int]

"""What commands take."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any


@dataclass(frozen=True, kw_only=True)
class Reading:
    """What a device reports. `reference` is its own number of the message: sent twice, it counts once. Another device
    may use the same number."""

    serial: str
    kind: str
    reference: str
    at: datetime
    text: str = ""
    value: float | None = None
    unit: str = ""


@dataclass(frozen=True, kw_only=True)
class Wanted:
    """What the caller wants. Fields left None come from the job type, where there is one."""

    what_is_wrong: str
    job_type_id: int | None = None
    asset_id: int | None = None
    priority: int | None = None
    duration_seconds: int | None = None
    needs: Mapping[str, int] | None = None
    promise: tuple[datetime, datetime] | None = None
    due: datetime | None = None
    contact_name: str = ""
    contact_phone: str = ""
    source: str = "phone"
    # What is known of the order besides; None leaves what was kept.
    details: Mapping[str, Any] | None = None

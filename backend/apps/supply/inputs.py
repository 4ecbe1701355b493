"""What is handed to the commands of supply."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime


@dataclass(frozen=True, kw_only=True)
class Asked:
    """What somebody asks for; see apps.supply.models.PartRequest."""

    code: str
    quantity: int
    technician_id: int
    visit_id: int | None = None
    needed_by: datetime | None = None
    must: bool = True
    substitute_allowed: bool = False
    words: str = ""


@dataclass(frozen=True, kw_only=True)
class CameOut:
    """A part that was removed at a site (and from which equipment), or that turned out defective on a van or in a
    depot: `place_id`. `to_place_id`: the van or depot where it is kept."""

    code: str
    quantity: int
    because: str
    what: str
    site_id: int | None = None
    asset_id: int | None = None
    place_id: int | None = None
    to_place_id: int | None = None
    visit_id: int | None = None
    serial: str = ""
    batch: str = ""


@dataclass(frozen=True, kw_only=True)
class Settled:
    """How a claim ended: credited (with how much), replaced (where the new one was put), or refused."""

    state: str
    says: str = ""
    credit: int | None = None
    place_id: int | None = None
    serials: tuple[str, ...] = ()


@dataclass(frozen=True, kw_only=True)
class LoanFields:
    """What is lent, from where, to whom, until when. A part comes from a depot or van; equipment is a record of its
    own. To a site, or to a technician."""

    due: date
    code: str = ""
    asset_id: int | None = None
    quantity: int = 1
    serial: str = ""
    source_id: int | None = None
    site_id: int | None = None
    technician_id: int | None = None
    calibrated_until: date | None = None
    note: str = ""


@dataclass(frozen=True, kw_only=True)
class Picked:
    """So many of a part that were picked, with the numbers of the pieces or their batch."""

    code: str
    quantity: int
    serials: Sequence[str] = ()
    batch: str = ""
    transfer_id: int | None = None


@dataclass(frozen=True, kw_only=True)
class LineWanted:
    """So many of a part, at what price each (None: as it cost last)."""

    code: str
    quantity: int
    price: int | None = None


@dataclass(frozen=True, kw_only=True)
class Came:
    """What has come of a line: how many, what each cost (None: as ordered), numbers of the pieces or their batch."""

    line_id: int
    quantity: int
    price: int | None = None
    serials: Sequence[str] = ()
    batch: str = ""

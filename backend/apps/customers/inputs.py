"""What commands take."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import Any

from core.basics import Place


@dataclass(frozen=True, kw_only=True)
class AssetFields:
    """What can be edited of an asset. `parent_id` is the asset it is part of, at the same site."""

    kind: str
    make: str = ""
    model: str = ""
    serial: str = ""
    installed_on: date | None = None
    warranty_until: date | None = None
    state: str = "in service"
    parent_id: int | None = None
    extra: Mapping[str, Any] = field(default_factory=dict)


@dataclass(frozen=True, kw_only=True)
class CustomerFields:
    """What can be edited of a customer. At most one of `payer_id` and `payer_address` says who else pays."""

    name: str
    phone: str = ""
    email: str = ""
    payer_id: int | None = None
    payer_address: str = ""
    needs_po_number: bool = False
    tags: Sequence[str] = ()
    extra: Mapping[str, Any] = field(default_factory=dict)


@dataclass(frozen=True, kw_only=True)
class SiteFields:
    """What can be edited of a site. `opening` is seven spans, Monday first; none at all: always open."""

    name: str
    address: str
    place: Place
    access_notes: str = ""
    opening: Sequence[str] = ()
    preferred: Sequence[int] = ()
    refused: Sequence[int] = ()
    required: Sequence[int] = ()
    extra: Mapping[str, Any] = field(default_factory=dict)

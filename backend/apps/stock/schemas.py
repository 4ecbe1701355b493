"""Wire shapes of stock."""

from typing import Self

from ninja import Field, Schema

from apps.stock.models import MOST, VanPart
from foundation.schemas import Text


class VanPartOut(Schema):
    part: str
    quantity: int
    version: int

    @classmethod
    def of(cls, row: VanPart) -> Self:
        return cls(part=row.part, quantity=row.quantity, version=row.version)


class CountIn(Schema):
    """`quantity` left out: the van does not carry it any more. `version` of the row seen; left out: a new part."""

    part: Text = Field(max_length=80)
    quantity: int | None = Field(None, ge=0, le=MOST)
    version: int | None = Field(None, ge=1, le=2**31 - 1)

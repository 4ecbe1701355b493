"""Wire shapes of stock."""

from typing import Annotated, Self

from ninja import Field, Schema

from apps.stock.models import MOST, VanPart
from foundation.schemas import Text


class PartOut(Schema):
    """`code` is what visits and vans hold; the name may change. A retired one is not asked for any more."""

    code: str
    name: str
    retired: bool


class PartsIn(Schema):
    names: list[Annotated[Text, Field(min_length=1, max_length=80)]] = Field(min_length=1, max_length=40)


class VanPartOut(Schema):
    """`part` is its name, `code` its key."""

    code: str
    part: str
    quantity: int
    version: int

    @classmethod
    def of(cls, row: VanPart) -> Self:
        return cls(code=row.part.code, part=row.part.name, quantity=row.quantity, version=row.version)


class CountIn(Schema):
    """`quantity` left out: the van does not carry it any more. `version` of the row seen; left out: a new part."""

    part: Text = Field(max_length=80)
    quantity: int | None = Field(None, ge=0, le=MOST)
    version: int | None = Field(None, ge=1, le=2**31 - 1)

"""Wire types that every capability shares."""

from typing import Annotated

from ninja import Field, Path, Query, Schema
from pydantic import AfterValidator, BaseModel


def _storable(text: str) -> str:
    if "\x00" in text:
        raise ValueError("must not hold a zero byte")
    return text.strip()


Text = Annotated[str, AfterValidator(_storable)]
# Short text in an address: what somebody typed into a search field.
Typed = Annotated[str, Query(max_length=200), AfterValidator(_storable)]
# Keys fit the database's 64-bit integers; anything larger cannot exist.
Key = Annotated[int, Path(ge=1, le=2**62)]
# The same, asked for behind the question mark.
AskedKey = Annotated[int, Query(ge=1, le=2**62)]


class Answer(BaseModel):
    """What long answers are made of, each built field by field.

    Without what ninja's Schema adds to read records of the database by their attributes: it looks every field up once
    more, which a list of thousands spends most of its time on.
    """


class UseOut(Schema):
    """Who has something, in the plural, and how many."""

    what: str
    count: int


class MergeInto(Schema):
    """`into` is the one that is kept."""

    version: int = Field(ge=1, le=2**31 - 1)
    into: int = Field(ge=1, le=2**62)

"""Wire types that every capability shares."""

from typing import Annotated

from ninja import Path
from pydantic import AfterValidator


def _storable(text: str) -> str:
    if "\x00" in text:
        raise ValueError("must not hold a zero byte")
    return text.strip()


Text = Annotated[str, AfterValidator(_storable)]
# Keys fit the database's 64-bit integers; anything larger cannot exist.
Key = Annotated[int, Path(ge=1, le=2**62)]

"""How the customer took the work."""

from dataclasses import dataclass
from enum import StrEnum


class Ended(StrEnum):
    SIGNED = "signed"
    REFUSED = "refused"
    ABSENT = "absent"


@dataclass(frozen=True, kw_only=True)
class Acceptance:
    """What the customer said of the work.

    Attributes
    ----------
    name : who signed or refused.
    rating : 1 to 5, if they gave one.
    words : theirs; where nobody signed, why.

    Raises
    ------
    ValueError
        When something is missing; with a sentence.
    """

    ended: Ended
    name: str = ""
    rating: int | None = None
    words: str = ""

    def __post_init__(self) -> None:
        if self.ended is Ended.SIGNED and not self.name.strip():
            raise ValueError("Who signed? Write the name down.")
        if self.ended is not Ended.SIGNED and not self.words.strip():
            raise ValueError("Say why nobody signed.")
        if self.rating is not None and not 1 <= self.rating <= 5:
            raise ValueError("A rating is 1 to 5.")

"""What a part is known by."""

from enum import StrEnum

from stdnum import ean
from stdnum.exceptions import ValidationError


class Tracking(StrEnum):
    """How single pieces of a part are told apart."""

    PLAIN = "plain"
    BATCH = "batch"
    SERIAL = "serial number"


def gtin(text: str) -> str:
    """A GTIN as it is kept: its digits.

    Raises
    ------
    ValueError
        When it is none: not 8, 12, 13 or 14 digits, or the check digit is wrong (GS1 General Specifications, 7.9).
    """
    try:
        return str(ean.validate(text))
    except ValidationError as error:
        raise ValueError(f"“{text.strip()}” is no GTIN: {_why(text)}") from error


def _why(text: str) -> str:
    digits = ean.compact(text)
    if not digits.isdigit() or len(digits) not in (8, 12, 13, 14):
        return "it has 8, 12, 13 or 14 digits"
    return f"its last digit would have to be {ean.calc_check_digit(digits[:-1])}"

"""Money: whole numbers of a currency's smallest unit, and the one way in which they are rounded."""

from collections.abc import Sequence
from decimal import ROUND_HALF_UP, Decimal
from fractions import Fraction

# Digits after the point, where they are not two (ISO 4217).
_NO_DIGITS = frozenset(
    "BIF CLP DJF GNF ISK JPY KMF KRW PYG RWF UGX UYI VND VUV XAF XOF XPF".split()  # noqa: SIM905 - read as a list
)
_THREE_DIGITS = frozenset("BHD IQD JOD KWD LYD OMR TND".split())  # noqa: SIM905

Number = int | Decimal | Fraction


def digits_of(currency: str) -> int:
    """How many digits after the point amounts of a currency have (ISO 4217)."""
    if currency in _NO_DIGITS:
        return 0
    return 3 if currency in _THREE_DIGITS else 2


def rounded(amount: Number) -> int:
    """The nearest whole amount; a half goes away from zero (EN 16931-1, 6.4), so that a credit mirrors its invoice."""
    exact = Fraction(amount)
    return rounded_ratio(exact.numerator, exact.denominator)


def rounded_ratio(numerator: int, denominator: int) -> int:
    """The same of a ratio of whole numbers, the lower one above zero: what lines are counted with, a hundred times
    faster than with fractions."""
    whole, rest = divmod(abs(numerator), denominator)
    whole += 2 * rest >= denominator
    return whole if numerator >= 0 else -whole


def share(amount: int, weights: Sequence[int]) -> list[int]:
    """An amount shared by weights, in their order: the parts add up to it, and each is nearest to its exact share but
    for one smallest unit.

    Parameters
    ----------
    weights
        Not negative; where all are nothing, the first part takes everything.

    Raises
    ------
    ValueError
        Without weights, or for a negative one.
    """
    if not weights or min(weights) < 0:
        raise ValueError("an amount is shared by weights that are not negative")
    total = sum(weights)
    if total == 0:
        return [amount, *(0 for _ in weights[1:])]
    exact = [Fraction(abs(amount) * weight, total) for weight in weights]
    parts = [part.numerator // part.denominator for part in exact]
    # What is left goes to those who lost most by rounding down; of equals to the heaviest, then to the first.
    by_loss = sorted(range(len(weights)), key=lambda at: (parts[at] - exact[at], -weights[at], at))
    for at in by_loss[: abs(amount) - sum(parts)]:
        parts[at] += 1
    return parts if amount >= 0 else [-part for part in parts]


def amount_of(text: str, currency: str) -> int:
    """ "1,234.50" or "1234,5" as whole smallest units.

    Raises
    ------
    ValueError
        For what is no amount, or has more digits than the currency.
    """
    plain = text.strip().replace(" ", "").replace("\u00a0", "").replace("'", "")
    point = max(plain.rfind("."), plain.rfind(","))
    grouped = point >= 0 and len(plain) - point - 1 == 3 and digits_of(currency) != 3
    if point >= 0 and not grouped:
        whole, cents = plain[:point], plain[point + 1 :]
    else:
        whole, cents = plain, ""
    whole = whole.replace(".", "").replace(",", "")
    sign = -1 if whole.startswith("-") else 1
    whole = whole.removeprefix("-")
    digits = digits_of(currency)
    if not (whole + cents).isascii() or not (whole or cents) or not (whole or "0").isdigit():
        raise ValueError(f"“{text}” is no amount")
    if cents and not cents.isdigit():
        raise ValueError(f"“{text}” is no amount")
    if len(cents) > digits:
        raise ValueError(f"“{text}” has more than {digits} digits after the point")
    return sign * int((whole or "0") + cents.ljust(digits, "0"))


def plain_text(amount: int, currency: str) -> str:
    """An amount as "1234.50", for files and for fields that are typed in."""
    return f"{Decimal(amount).scaleb(-digits_of(currency)):f}"


def thousandths(quantity: Decimal) -> int:
    """A quantity in thousandths, as `exact_quantity` has it."""
    return int(quantity.scaleb(3).to_integral_value(rounding=ROUND_HALF_UP))


def exact_quantity(quantity: Decimal) -> Decimal:
    """A quantity as documents hold it: three digits after the point, a half rounded up."""
    return quantity.quantize(Decimal("0.001"), rounding=ROUND_HALF_UP)

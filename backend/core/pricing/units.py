"""Units of measure by their codes in UN/ECE Recommendation 20, as electronic invoices name them."""

from decimal import Decimal

UNITS: dict[str, str] = {
    "C62": "piece",
    "HUR": "hour",
    "MIN": "minute",
    "DAY": "day",
    "MON": "month",
    "ANN": "year",
    "LS": "lump sum",
    "KMT": "km",
    "MTR": "m",
    "MTK": "m²",
    "MTQ": "m³",
    "LTR": "l",
    "KGM": "kg",
    "SET": "set",
    "PR": "pair",
    "BX": "box",
    "RO": "roll",
    "XPK": "package",
}

# As they stand behind a number where there is little room; what is counted needs no word.
_SHORT = {"C62": "×", "LS": "×", "HUR": "h", "MIN": "min"}


def many(quantity: Decimal, unit: str) -> str:
    """ "1.5 h", "4 ×", "12 m"."""
    return f"{quantity.normalize():f} {_SHORT.get(unit, UNITS.get(unit, unit))}"


# Seconds in a unit of time: how a quantity of labour becomes labour-hours.
SECONDS = {"HUR": 3600, "MIN": 60, "DAY": 8 * 3600}

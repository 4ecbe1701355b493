"""Values that every part of the core shares."""

from core.basics.intervals import Interval, minutes_in_words
from core.basics.phones import digits_of, is_phone_country, phone_key
from core.basics.places import Place, straight_metres, straight_metres_among

__all__ = [
    "Interval",
    "Place",
    "digits_of",
    "is_phone_country",
    "minutes_in_words",
    "phone_key",
    "straight_metres",
    "straight_metres_among",
]

"""Values that every part of the core shares."""

from core.basics.intervals import Interval, minutes_in_words
from core.basics.places import Place, straight_metres

__all__ = ["Interval", "Place", "minutes_in_words", "straight_metres"]

"""The lamp: how safe a promise is."""

from enum import StrEnum

from core.basics import Interval
from core.planning.timetable import StopTimes

# A visit expected with less room than this before its promise ends wants watching.
WATCH_SECONDS = 20 * 60


class Lamp(StrEnum):
    DARK = "dark"
    WATCH = "watch"
    BROKEN = "broken"


def lamp(promise: Interval | None, times: StopTimes | None, *, arrived: bool = False) -> Lamp:
    """How safe a promise is, from the expected arrival.

    A promise with nobody assigned is broken: the customer expects somebody.
    """
    if promise is None:
        return Lamp.DARK
    if times is None:
        return Lamp.BROKEN
    arrival = times.arrives if arrived else times.starts
    room = promise.end - arrival
    if room < 0 or (not arrived and arrival < promise.start):
        return Lamp.BROKEN
    return Lamp.WATCH if room < WATCH_SECONDS and not arrived else Lamp.DARK

"""Deeds: what somebody did in the field, recorded there, and sent when there was a signal."""

from dataclasses import dataclass
from enum import StrEnum

# What comes in later than this after it was done is said to be late.
LATE_SECONDS = 600


class Outcome(StrEnum):
    """What the office's records made of a deed."""

    APPLIED = "applied"
    # It could never have been so, whoever decides: it has no shape that anything could be made of.
    REFUSED = "refused"
    # It is kept, and contradicts what was done in the office meanwhile: a person decides.
    WAITING = "waiting"


class Choice(StrEnum):
    """What a person makes of a deed that waits. Dropping it is not among them: it was done."""

    APPLY = "apply"
    KEEP = "keep"  # as something that was told, without an effect


@dataclass(frozen=True, kw_only=True)
class Told:
    """A deed's time, in seconds since the epoch: when it is taken to have happened, and whether that is another time
    than the phone said."""

    at: int
    moved: bool


def is_late(happened: int, received: int) -> bool:
    """Whether something came in noticeably later than it was done."""
    return received - happened > LATE_SECONDS


def placed_in_time(said: int, *, after: int | None, now: int) -> Told:
    """When something happened, by a phone whose clock may be wrong: not in the future, and not before what happened
    before it.

    Parameters
    ----------
    said
        By the phone, corrected by what it knew of the server's clock; seconds since the epoch, like all of these.
    after
        The latest of what is known to have come before; None: nothing is.
    now
        When it came in.
    """
    at = min(said, now)
    if after is not None:
        at = max(at, min(after, now))
    return Told(at=at, moved=at != said)

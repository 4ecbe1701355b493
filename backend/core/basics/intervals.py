"""Stretches of absolute time, in whole seconds since the epoch (UTC)."""

from dataclasses import dataclass


@dataclass(frozen=True, kw_only=True, order=True)
class Interval:
    """From `start` up to but not including `end`, in epoch seconds.

    Raises
    ------
    ValueError
        When the end lies before the start.
    """

    start: int
    end: int

    def __post_init__(self) -> None:
        if self.end < self.start:
            raise ValueError(f"an interval cannot end ({self.end}) before it starts ({self.start})")

    @property
    def seconds(self) -> int:
        return self.end - self.start

    def overlap(self, other: "Interval") -> int:
        """Seconds that both share."""
        return max(0, min(self.end, other.end) - max(self.start, other.start))

    def holds(self, moment: int) -> bool:
        """Whether `moment` lies inside; the end counts as inside, as an arrival window is meant."""
        return self.start <= moment <= self.end


def minutes_in_words(seconds: int) -> str:
    """A length as people say it: "12 min", "1 h 05 min", "under 1 min"."""
    if seconds < 60:
        return "under 1 min" if seconds > 0 else "0 min"
    minutes = round(seconds / 60)
    if minutes < 60:
        return f"{minutes} min"
    hours, rest = divmod(minutes, 60)
    return f"{hours} h" if rest == 0 else f"{hours} h {rest:02d} min"

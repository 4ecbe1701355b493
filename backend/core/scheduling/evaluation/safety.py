"""How safe a promise is: how likely it is that work starts inside it, and the lamp that shows it.

Durations and drives scatter. A day is played many times with lengths drawn at random, and counted is how
often each promise holds. Lengths are log-normal: never negative, with a long tail, as field work has.
"""

import math
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum

import numpy as np
from numpy.typing import NDArray

from core.basics import Interval
from core.scheduling.evaluation.rules import GRAIN
from core.scheduling.model.day import Day, Stop
from core.scheduling.model.limits import Broken, Limit
from core.scheduling.model.timetable import Kind, StopTimes, Timetable

Floats = NDArray[np.float64]
SAMPLES = 1000
# Below this likelihood a promise wants watching.
WATCH_BELOW = 0.9
# Spread of a length as a share of it, where history does not say.
USUAL_SPREAD = 0.2
DRIVE_SPREAD = 0.15


class Lamp(StrEnum):
    DARK = "dark"
    WATCH = "watch"
    BROKEN = "broken"


def lamp(
    promise: Interval | None, times: StopTimes | None, *, broken: Iterable[Broken] = (), arrived: bool = False,
    likelihood: float | None = None,
) -> Lamp:  # fmt: skip
    """How safe a promise is.

    A promise with nobody assigned is broken: the customer expects somebody. So is one that the plan as it
    stands does not keep, or that stands in a plan that cannot be carried out. One that holds is watched when it is
    less likely than WATCH_BELOW to go on holding.

    Parameters
    ----------
    broken
        What the evaluator found of the visit: whether its promise is kept is nowhere else decided.
    likelihood
        From `likelihoods`; None when it was not computed.
    """
    if promise is None:
        return Lamp.DARK
    broken = tuple(broken)
    if times is None or any(row.limit is Limit.PROMISE for row in broken) or (is_undone(broken) and not arrived):
        return Lamp.BROKEN
    if arrived or likelihood is None:
        return Lamp.DARK
    return Lamp.WATCH if likelihood < WATCH_BELOW else Lamp.DARK


def is_undone(broken: Iterable[Broken]) -> bool:
    """Whether what is broken of a visit's placement means that it will not be carried out as it stands: whoever should
    go is absent or has no shift, or it is tied to a visit that does not allow it."""
    return any(
        row.limit in (Limit.ABSENCE, Limit.LINK) or (row.limit is Limit.SHIFT and not row.seconds) for row in broken
    )


@dataclass(frozen=True, kw_only=True)
class Spread:
    """Standard deviations as shares of the mean: of a visit's work by its id, and of all driving."""

    work: Mapping[int, float]
    drive: float = DRIVE_SPREAD


def likelihoods(
    days: Sequence[Day], timetables: Sequence[Timetable], *, spread: Spread, seed: int = 1, samples: int = SAMPLES
) -> dict[int, float]:
    """Likelihood (0-1) that each promise of the days is kept, by visit.

    Simulation: every day is walked `samples` times, all days at once, in the order the plan has, with the
    break after the stop where the plan has it. What has happened is as it happened.

    Parameters
    ----------
    days, timetables
        Technicians' days and what the evaluator made of them, in the same order.
    spread
        How much lengths scatter.
    seed
        The same seed gives the same likelihoods.
    """
    played = _played(days, timetables, spread=spread, seed=seed, samples=samples)
    return {stop.visit.id: _share_inside(stop.visit.windows, starts) for stop, starts in played if stop.visit.windows}


def likely_start(
    day: Day, timetable: Timetable, visit_id: int, *, spread: Spread, seed: int = 1, samples: int = SAMPLES
) -> Interval | None:
    """When work on a visit begins in eight of ten plays of its day: from the tenth to the ninetieth of a hundred.

    None when the visit is not on that day.
    """
    for stop, starts in _played([day], [timetable], spread=spread, seed=seed, samples=samples):
        if stop.visit.id == visit_id:
            early, late = np.quantile(starts, (0.1, 0.9))
            return Interval(start=round(float(early)), end=round(float(late)))
    return None


def _played(
    days: Sequence[Day], timetables: Sequence[Timetable], *, spread: Spread, seed: int, samples: int
) -> Iterator[tuple[Stop, Floats]]:
    """Every stop of the days with its starts in all samples."""
    dice = np.random.default_rng(seed)
    longest = max((len(day.stops) for day in days), default=0)
    free = np.full((len(days), samples), -np.inf)
    for position in range(longest):
        rows = [row for row, day in enumerate(days) if position < len(day.stops)]
        drives, works = dice.standard_normal((2, len(rows), samples))
        for number, row in enumerate(rows):
            starts, free[row] = _play(
                days[row], timetables[row], position, free[row], drives[number], works[number], spread
            )
            yield days[row].stops[position], starts


def _play(
    day: Day, timetable: Timetable, position: int, free: Floats, drive: Floats, work: Floats, spread: Spread
) -> tuple[Floats, Floats]:
    """Starts and ends of one stop in all samples."""
    stop, times = day.stops[position], timetable.stops[position]
    if stop.actual.finished is not None:
        return np.full_like(free, times.arrives), np.full_like(free, times.ends)
    length = times.ends - times.starts
    share = spread.work.get(stop.visit.id, USUAL_SPREAD)
    if stop.actual.arrived is not None:
        return np.full_like(free, times.arrives), times.starts + _scatter(length, share, work)
    driven = _scatter(times.drive_seconds, spread.drive, drive)
    leaves = np.maximum(free, times.arrives - times.drive_seconds) if position == 0 else free
    if position and not np.isfinite(leaves).all():
        leaves = np.full_like(free, times.arrives - times.drive_seconds)
    arrives = leaves + driven + _rest_between(timetable, position)
    # Nobody begins before the plan says: the customer was told then.
    starts = np.maximum(arrives, stop.start)
    return starts, starts + _scatter(length, share, work)


def _scatter(mean: int, share: float, normal: Floats) -> Floats:
    """Log-normal lengths with that mean and standard deviation share * mean."""
    if mean <= 0 or share <= 0:
        return np.full_like(normal, max(0, mean))
    sigma = math.sqrt(math.log1p(share * share))
    scattered: Floats = mean * np.exp(sigma * normal - sigma * sigma / 2)
    return scattered


def _rest_between(timetable: Timetable, position: int) -> int:
    """Seconds of break that the plan has between this stop's work and what came before it."""
    times = timetable.stops[position]
    after = timetable.stops[position - 1].ends if position else 0
    return sum(
        stretch.seconds
        for stretch in timetable.stretches
        if stretch.kind is Kind.BREAK and position and after <= stretch.start < times.starts
    )


def _share_inside(windows: Sequence[Interval], starts: Floats) -> float:
    inside = np.zeros(starts.shape, bool)
    for window in windows:
        inside |= (starts > window.start - GRAIN) & (starts < window.end + GRAIN)
    return float(inside.mean())

"""How long a kind of work takes, and how long it takes whom."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from statistics import fmean

# Fewer visits of a kind than this say nothing.
LEAST_COUNT = 5
# A technician's own length is worth naming from here on.
LEAST_DIFFERENCE = 0.05


@dataclass(frozen=True, kw_only=True)
class OwnPace:
    """One technician's: expected seconds, and on how many visits they rest."""

    seconds: float
    count: int


@dataclass(frozen=True, kw_only=True)
class Learned:
    """One kind of work.

    Attributes
    ----------
    mean, spread : seconds, and standard deviation of a single visit by the same technician.
    count : visits it rests on.
    own : by technician.
    """

    mean: float
    spread: float
    count: int
    own: Mapping[int, OwnPace]

    def for_duration(self, seconds: int) -> dict[int, int]:
        """A visit's length by technician: its own estimate at each one's pace, in whole minutes.

        Only who differs by 5 % and more is named.
        """
        found = {}
        for technician_id, pace in self.own.items():
            ratio = pace.seconds / self.mean
            if abs(ratio - 1) >= LEAST_DIFFERENCE:
                found[technician_id] = max(60, round(seconds * ratio / 60) * 60)
        return found


def learn(samples: Iterable[tuple[int, int]]) -> Learned | None:
    """Learn one kind of work from finished visits; None when there are too few.

    A technician's mean is drawn towards the mean of the kind, the more the fewer visits it rests on: with
    variance w within a technician's visits and b between technicians, n visits weigh n / (n + w / b).
    This is the empirical Bayes estimate for the one-way layout, with w and b by the analysis of variance
    (Searle, Casella & McCulloch, Variance Components, 1992, sections 3.6 and 7.9; the idea: Efron &
    Morris, JASA 70, 1975).

    Parameters
    ----------
    samples
        Technician and seconds of work, one per finished visit.
    """
    by_technician: dict[int, list[int]] = {}
    for technician_id, seconds in samples:
        by_technician.setdefault(technician_id, []).append(seconds)
    total = sum(len(values) for values in by_technician.values())
    if total < LEAST_COUNT:
        return None
    mean = sum(sum(values) for values in by_technician.values()) / total
    within, between = _variances(by_technician, mean, total)
    own = {}
    for technician_id, values in by_technician.items():
        weight = 0.0 if between == 0 else len(values) / (len(values) + within / between)
        own[technician_id] = OwnPace(seconds=mean + weight * (fmean(values) - mean), count=len(values))
    return Learned(mean=mean, spread=within**0.5, count=total, own=own)


def _variances(groups: Mapping[int, list[int]], mean: float, total: int) -> tuple[float, float]:
    """Variance within and between groups of unequal size, by the analysis of variance; never negative."""
    means = {key: fmean(values) for key, values in groups.items()}
    inside = sum((value - means[key]) ** 2 for key, values in groups.items() for value in values)
    across = sum(len(values) * (means[key] - mean) ** 2 for key, values in groups.items())
    freedom = total - len(groups)
    within = inside / freedom if freedom else inside / max(1, total - 1)
    if len(groups) < 2:
        return within, 0.0
    size = (total - sum(len(values) ** 2 for values in groups.values()) / total) / (len(groups) - 1)
    between = (across / (len(groups) - 1) - within) / size if size > 0 else 0.0
    return within, max(0.0, between)

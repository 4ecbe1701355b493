"""A trade and its usual jobs, as plain values."""

from collections.abc import Mapping
from dataclasses import dataclass, field


@dataclass(frozen=True, kw_only=True)
class StarterJob:
    """A job type as many companies have it; each changes it as it likes.

    Parameters
    ----------
    minutes
        Usual length of the visit.
    needs
        Least level (1-5) by the name of the skill.
    respond_minutes
        Within which somebody must be there; None: no such promise.
    resolve_days
        Within which it is due; None: no deadline.
    """

    code: str
    name: str
    minutes: int
    priority: int = 3
    needs: Mapping[str, int] = field(default_factory=dict)
    certificates: tuple[str, ...] = ()
    crew: int = 1
    tasks: tuple[str, ...] = ()
    respond_minutes: int | None = None
    resolve_days: int | None = None


@dataclass(frozen=True)
class Trade:
    """A trade with its jobs, the most urgent first."""

    key: str
    name: str
    jobs: tuple[StarterJob, ...]

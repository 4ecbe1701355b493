"""What a job type and the company fill into new work where nobody has said otherwise."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime, timedelta

from apps.catalogue.models import JobType
from apps.company.queries import settings


@dataclass(frozen=True, kw_only=True)
class Work:
    """New work with everything filled in. `needs` and `parts` are by key; `duration_seconds` None: nobody knows yet."""

    duration_seconds: int | None
    needs: Mapping[str, int]
    priority: int
    crew: int
    due: datetime | None
    parts: Mapping[str, int]
    worth: int | None


def filled_in(
    job: JobType | None, *, since: datetime, duration_seconds: int | None = None,
    needs: Mapping[str, int] | None = None, priority: int | None = None, crew: int | None = None,
    due: datetime | None = None,
) -> Work:  # fmt: skip
    """What is known of new work; what is None is filled in: by its job type, else by the company's settings.

    Whatever is made, offered or previewed goes through here, so that what was offered is what is made.

    Parameters
    ----------
    since
        When the work was asked for: deadlines count from there.
    """
    own = settings()
    usual = job.duration_seconds if job else None
    return Work(
        duration_seconds=duration_seconds or usual or 60 * own.default_minutes or None,
        needs=dict(needs) if needs is not None else (job.needs if job else {}),
        priority=priority or (job.priority if job else 3),
        crew=crew or (job.crew if job else 1),
        due=due or _due(job, since, own.default_days),
        parts=dict(job.parts) if job else {},
        worth=job.worth if job else None,
    )


def _due(job: JobType | None, since: datetime, default_days: int) -> datetime | None:
    """The job type's own deadline, else the company's usual one."""
    if job is not None and job.resolve_minutes is not None:
        return since + timedelta(minutes=job.resolve_minutes)
    return since + timedelta(days=default_days) if default_days else None

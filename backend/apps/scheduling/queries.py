"""Reading planning runs."""

from apps.scheduling.models import PlanningRun
from foundation.errors import NotFound


def latest_runs(*, limit: int = 20) -> list[PlanningRun]:
    """The last planning runs, newest first."""
    return list(PlanningRun.objects.defer("proposal").order_by("-id")[:limit])


def run(run_id: int) -> PlanningRun:
    found = PlanningRun.objects.filter(pk=run_id).first()
    if found is None:
        raise NotFound("There is no such planning run.", code="no_run")
    return found

"""Reading planning runs."""

from apps.scheduling.models import PlanningRun
from foundation.errors import NotFound
from foundation.pages import Page, newest_first

RUNS_SHOWN = 20


def runs(*, cursor: str = "") -> Page[PlanningRun]:
    """Planning runs, the newest first, without their proposals."""
    return newest_first(PlanningRun.objects.defer("proposal"), cursor, size=RUNS_SHOWN)


def run(run_id: int) -> PlanningRun:
    found = PlanningRun.objects.filter(pk=run_id).first()
    if found is None:
        raise NotFound("There is no such planning run.", code="no_run")
    return found

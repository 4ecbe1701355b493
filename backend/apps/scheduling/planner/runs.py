"""Computing a planning run."""

import logging
import time
from collections.abc import Callable
from typing import Any, cast

from django.db import transaction

from apps.scheduling.models import PlanningRun, RunState
from apps.scheduling.playbooks import playbook_from
from apps.scheduling.problems import Loaded, load_problem
from apps.scheduling.proposals import as_json, count_broken
from core.scheduling.engine import Budget, Progress, fill, improve, plan, repair, sequence
from core.scheduling.judgement.proposal import Proposal
from foundation import clock, live
from foundation.actors import Actor

log = logging.getLogger(__name__)
# A run whose worker died twice is not tried a third time: it may be what killed them.
MOST_TRIES = 2
TELL_EVERY = 0.4
# Of the time given, what working out the reasons may take; and what is searched at the least.
WORDS_SHARE, WORDS_SECONDS, LEAST_SEARCH = 0.15, 1.0, 0.1
ASK_EVERY = 0.06
OPERATIONS: dict[str, Callable[..., Proposal]] = {
    "improve": improve,
    "fill": fill,
    "plan": plan,
    "repair": repair,
    "sequence": sequence,
    "spread": fill,
}


def compute(run_id: int) -> None:
    """Compute a run's proposal and keep it with the run.

    The plan itself is not touched, so a worker that dies leaves nothing half done: the queue hands the
    run to another one, which starts again.
    """
    run = _take(run_id)
    if run is None:
        return
    began = time.monotonic()
    try:
        loaded = _load(run)
        watch = _Watch(run)
        more: dict[str, Any] = {}
        if run.kind in ("sequence", "repair"):
            more = {"visit_ids" if run.kind == "sequence" else "only": run.visit_ids}
        proposal = OPERATIONS[run.kind](
            loaded.problem, **more, budget=Budget(seconds=_left(run, began)), seed=run.seed, progress=watch.progress,
            should_stop=watch.should_stop,
        )  # fmt: skip
        state = RunState.STOPPED if proposal.stopped else RunState.DONE
        counted = count_broken(
            loaded, proposal, first=run.first_day, days=run.days, technician_id=run.technician_id, now=clock.now()
        )
        _end(run, state, proposal=as_json(loaded, proposal, counted))
    except Exception as error:
        log.exception("planning run %s failed", run_id)
        _end(run, RunState.FAILED, failure=f"The planner met an error: {error}"[:300])


def _left(run: PlanningRun, began: float) -> float:
    """What is left for searching of the time that was given: it is the whole wait, with loading before and the words
    about it after."""
    return max(LEAST_SEARCH, run.seconds - (time.monotonic() - began) - min(WORDS_SHARE * run.seconds, WORDS_SECONDS))


@transaction.atomic
def _take(run_id: int) -> PlanningRun | None:
    run = PlanningRun.objects.select_for_update().filter(pk=run_id).first()
    if run is None or run.state not in (RunState.QUEUED, RunState.RUNNING):
        return None
    if run.tries >= MOST_TRIES:
        _end(run, RunState.FAILED, failure="The planner stopped twice while it worked on this.")
        return None
    run.state, run.tries = RunState.RUNNING, run.tries + 1
    run.save(update_fields=["state", "tries"])
    live.announce("run", ids=[run.pk])
    return run


def _load(run: PlanningRun) -> Loaded:
    return load_problem(
        first=run.first_day, days=run.days, playbook=playbook_from(run.playbook_name, run.limits, run.aims),
        now=clock.now(), technician_id=run.technician_id, only=_wanted(run),
        movable=run.visit_ids if run.kind in ("plan", "repair") and run.visit_ids else None,
        spread=run.visit_ids if run.kind == "spread" else (), reaching=cast(Actor, run.asked_by),
    )  # fmt: skip


def _wanted(run: PlanningRun) -> list[int] | None:
    if run.kind in ("improve", "repair", "spread"):
        return []
    return run.visit_ids or None


class _Watch:
    """Tells how far a run is, and asks whether it shall stop."""

    def __init__(self, run: PlanningRun) -> None:
        self.run = run
        self.told = self.asked = 0.0
        self.stop = False

    def progress(self, progress: Progress) -> None:
        if time.monotonic() - self.told < TELL_EVERY:
            return
        self.told = time.monotonic()
        with transaction.atomic():
            PlanningRun.objects.filter(pk=self.run.pk).update(
                share=progress.share, iterations=progress.iterations, cost=progress.cost
            )
            live.announce("run", ids=[self.run.pk])

    def should_stop(self) -> bool:
        if time.monotonic() - self.asked >= ASK_EVERY:
            self.asked = time.monotonic()
            self.stop = PlanningRun.objects.filter(pk=self.run.pk, stop_asked=True).exists()
        return self.stop


def _end(run: PlanningRun, state: RunState, **results: Any) -> None:
    with transaction.atomic():
        PlanningRun.objects.filter(pk=run.pk).update(state=state, share=1.0, ended_at=clock.now(), **results)
        live.announce("run", ids=[run.pk])

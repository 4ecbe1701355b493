"""Planning runs: asked for, stopped, and their proposals accepted."""

from collections.abc import Collection, Mapping
from datetime import date, datetime, timedelta
from typing import Any

from django.db import transaction

from apps.company.queries import area_name, time_zone
from apps.orders import commands as orders
from apps.orders import queries as order_queries
from apps.orders.events import CustomerToCall
from apps.orders.inputs import Placement
from apps.people import queries as people
from apps.people.reach import check_technicians
from apps.scheduling.locks import lock_places, lock_visits
from apps.scheduling.models import PlanningRun, RunState
from apps.scheduling.playbooks import playbook_from, playbook_row
from apps.scheduling.problems import load_problem
from apps.scheduling.proposals import changes_from
from apps.scheduling.undoing import keep, placement_of
from core.calendars import day_words, local_day, local_time
from core.orders import Step
from core.roles import Action
from core.scheduling.evaluation.evaluate import evaluate
from core.scheduling.judgement.proposal import ProposedChange, accepted_part, broken_keys, unlocked
from foundation import audit, events, jobs, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected
from foundation.moments import to_datetime
from foundation.undo import one_intention

RUN = "scheduling.run"
QUEUE = "scheduling"
KINDS = ("improve", "fill", "plan", "repair", "sequence", "spread")
# Nobody waits longer than this with a phone at the ear; a night's run is another matter.
MOST_SECONDS = 300.0
# What a run proposed is kept so long after it ended.
PROPOSAL_DAYS = 90


@transaction.atomic
def start_run(
    *, actor: Actor, now: datetime, kind: str, first_day: date, days: int = 1, technician_id: int | None = None,
    visit_ids: Collection[int] = (), area_id: int | None = None, playbook_id: int | None = None, seconds: float = 5.0,
    seed: int = 1,
) -> PlanningRun:  # fmt: skip
    """Ask for a proposal. Nothing changes until it is accepted.

    Parameters
    ----------
    visit_ids
        Only these of the backlog; none: all of it.
    area_id
        Only what waits in this area, among `visit_ids` if any are given.
    """
    require(actor, Action.PLAN)
    if kind not in KINDS:
        raise Rejected(f"There is no planning run called “{kind}”.", field="kind")
    if kind == "improve" and (technician_id is None or days != 1):
        raise Rejected("One technician's day is put in order at a time: say whose.", field="technician_id")
    if kind in ("sequence", "spread") and not visit_ids:
        what = "the sequence has" if kind == "sequence" else "are to be spread"
        raise Rejected(f"Say which visits {what}.", field="visit_ids")
    if not 0.2 <= seconds <= MOST_SECONDS:
        raise Rejected(f"Give it 0.2 to {MOST_SECONDS:.0f} seconds.", field="seconds")
    if technician_id is not None:
        people.technician(technician_id)
        check_technicians(actor, [technician_id])
    if area_id is not None:
        visit_ids = _waiting_in(area_name(area_id), visit_ids)
    row = playbook_row(playbook_id)
    run = PlanningRun.objects.create(
        kind=kind, first_day=first_day, days=days, technician_id=technician_id, visit_ids=sorted(set(visit_ids)),
        playbook_name=row.name, limits=row.limits, aims=row.aims, seconds=seconds, seed=seed, asked_by_id=actor.id,
        asked_at=now,
    )  # fmt: skip
    audit.record(
        actor=actor, now=now, action="run", entity="run", entity_id=run.pk, sentence=f"asked for a run to {kind}"
    )
    jobs.after_commit(RUN, queue=QUEUE, run_id=run.pk)
    live.announce("run", ids=[run.pk])
    return run


def _waiting_in(area: str, visit_ids: Collection[int]) -> list[int]:
    waiting = [line.id for line in order_queries.open_visits() if line.area == area]
    found = [key for key in waiting if not visit_ids or key in visit_ids]
    if not found:
        raise Rejected(f"Nothing waits in {area}.", field="area_id")
    return found


@transaction.atomic
def stop_run(*, actor: Actor, now: datetime, run_id: int) -> PlanningRun:
    """Tell a run to stop; it keeps the best it has."""
    require(actor, Action.PLAN)
    run = _locked(run_id)
    if run.state == RunState.QUEUED:
        run.state, run.ended_at = RunState.STOPPED, now
    run.stop_asked = True
    run.save()
    audit.record(actor=actor, now=now, action="stop", entity="run", entity_id=run.pk, sentence="stopped the run")
    live.announce("run", ids=[run.pk])
    return run


@transaction.atomic
def accept(*, actor: Actor, now: datetime, run_id: int, visit_ids: Collection[int]) -> tuple[list[int], list[str]]:
    """Take over changes of a run's proposal: ids of the visits changed, and which came along because others need them.

    All in one transaction, and undone in one step.

    Raises
    ------
    Conflict
        When a visit has changed since the run; nothing is taken over.
    Rejected
        When the part does not hold on the days as they are now.
    """
    require(actor, Action.PLAN)
    run = _locked(run_id)
    if run.proposal is None:
        raise Rejected("This run has no proposal (yet).", code="no_proposal")
    if run.accepted_at is not None:
        raise Rejected("This proposal was accepted already.", code="accepted")
    rows: dict[int, dict[str, Any]] = {row["visit_id"]: row for row in run.proposal["changes"]}
    if not set(visit_ids) & rows.keys():
        raise Rejected("Tick at least one change.", field="visit_ids")
    _lock(rows)
    loaded = load_problem(
        first=run.first_day, days=run.days, playbook=playbook_from(run.playbook_name, run.limits, run.aims), now=now,
        technician_id=run.technician_id, only=() if run.kind == "spread" else rows.keys(),
        spread=run.visit_ids if run.kind == "spread" else (), reaching=actor,
    )  # fmt: skip
    _still_as_seen(rows, loaded.lines, visit_ids)
    # What the run was allowed to move although it was sent, this may move too.
    problem = unlocked(loaded.problem, run.proposal.get("freed", ()))
    part = accepted_part(problem, _known(loaded, rows), visit_ids)
    worse = broken_keys(part.evaluation) - broken_keys(evaluate(problem, problem.as_it_stands))
    if worse:
        reasons = [found.sentence for _day, found in part.evaluation.broken]
        raise Rejected("This no longer holds: the days have changed since. Run it again.", reasons=reasons)
    changed = _carry_out(actor, now, part.changes, rows)
    _list_calls(run, changed, now)
    run.accepted_at = now
    for row in run.proposal["changes"]:
        row["taken"] = row["visit_id"] in changed
    run.save(update_fields=["accepted_at", "proposal"])
    live.announce("run", ids=[run.pk])
    return changed, [change.label for change in part.added]


def _lock(rows: Mapping[int, Mapping[str, Any]]) -> None:
    """Everything that may change, before it is looked at: nobody puts anything between the look and the change."""
    lock_visits(rows)
    lock_places((place["technician_id"], place["start"]) for row in rows.values() for place in row["after"])


def _list_calls(run: PlanningRun, changed: Collection[int], now: datetime) -> None:
    """Whose promise this part of the plan does not keep is put on the list of those whom somebody has to call."""
    rows = (run.proposal or {}).get("to_call", ())
    why = {row["visit_id"]: row["why"] for row in rows if row["visit_id"] in changed}
    for visit in order_queries.visits_named(why):
        events.publish(CustomerToCall(visit=visit, why=why[visit.pk], at=now))


def _known(loaded: Any, rows: dict[int, dict[str, Any]]) -> list[ProposedChange]:
    return changes_from(loaded, [row for visit_id, row in rows.items() if visit_id in loaded.lines])


def _still_as_seen(rows: dict[int, dict[str, Any]], lines: dict[int, Any], wanted: Collection[int]) -> None:
    for visit_id in wanted:
        line = lines.get(visit_id)
        if visit_id in rows and (line is None or line.version != rows[visit_id]["version"]):
            newest = audit.since("visit", visit_id, rows[visit_id]["version"])
            who = f": {newest[0].actor_name} {newest[0].sentence}" if newest else ""
            raise Conflict(f"{rows[visit_id]['label']} has changed since{who}. Run it again.", code="stale")


@one_intention()
def _carry_out(
    actor: Actor, now: datetime, changes: Collection[ProposedChange], rows: dict[int, dict[str, Any]]
) -> list[int]:
    """Take the steps; what leaves a place goes first, so that nothing is judged on what is about to leave."""
    changed = []
    for change in sorted(changes, key=lambda c: bool(c.after)):
        version = rows[change.visit_id]["version"]
        visit = orders.lock_visit(actor=actor, visit_id=change.visit_id, version=version)
        before = placement_of(visit)
        if change.after:
            placing = change.after[0]
            name = people.technician(placing.technician_id).name
            when = _when(placing.start, before["start"])
            visit = orders.take_step(
                actor=actor, now=now, visit_id=visit.pk, version=version, step=Step.PLACE,
                sentence=f"placed it to {name}, {when}, from a proposal", note="; ".join(change.reasons)[:1000],
                placement=Placement(
                    technician_id=placing.technician_id, start=to_datetime(placing.start),
                    mates=[other.technician_id for other in change.after[1:]],
                ),
            )  # fmt: skip
            sentence = f"{visit.order.number} placed to {name}, {when}"
        else:
            visit = orders.take_step(
                actor=actor, now=now, visit_id=visit.pk, version=version, step=Step.UNPLACE,
                sentence="put it back in the backlog, from a proposal",
            )  # fmt: skip
            sentence = f"{visit.order.number} put back in the backlog"
        keep(actor, now, visit, sentence, before)
        changed.append(visit.pk)
    return changed


def _when(start: int, before: int | None) -> str:
    tz = time_zone()
    at = local_time(start, tz)
    same_day = before is not None and local_day(before, tz) == local_day(start, tz)
    return at if same_day else f"{day_words(local_day(start, tz))} {at}"


def _locked(run_id: int) -> PlanningRun:
    run = PlanningRun.objects.select_for_update().filter(pk=run_id).first()
    if run is None:
        raise NotFound("There is no such planning run.", code="no_run")
    return run


def retire(*, now: datetime) -> int:
    """Throw away the proposals of runs that ended long ago: they hold every visit they looked at. How many."""
    old = PlanningRun.objects.filter(ended_at__lt=now - timedelta(days=PROPOSAL_DAYS), proposal__isnull=False)
    return old.update(proposal=None)

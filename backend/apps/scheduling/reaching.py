"""What is offered to somebody, as far as they reach: what they could not do is not offered, and says why."""

from collections.abc import Collection, Iterable, Mapping
from typing import Any

from apps.orders.lines import VisitLine
from apps.orders.models import Visit
from apps.orders.reach import visit_problem
from apps.people.queries import technicians_at
from apps.people.reach import technicians_problem, within
from core.scheduling import Reason, Verdict
from core.scheduling.model.reasons import Code, why
from foundation.actors import Actor


def as_reached(
    verdict: Verdict, *, actor: Actor, line: VisitLine, technician_id: int, mates: Collection[int] | None
) -> Verdict:
    """A verdict for somebody: refused where what is judged is out of their reach."""
    if not actor.reach.is_narrow:
        return verdict
    going = (technician_id, *(line.mates if mates is None else mates))
    problem = visit_problem(actor, line.id) or technicians_problem(actor, going)
    if not problem:
        return verdict
    return verdict.with_reasons([Reason(weight="refuses", why=why(Code.OUT_OF_REACH, problem=problem))])


def out_of_reach(actor: Actor, visit: Visit, technicians: Iterable[int]) -> dict[int, str]:
    """Of these technicians, those to whom the actor cannot give the visit, with why."""
    if not actor.reach.is_narrow:
        return {}
    whole = visit_problem(actor, visit.pk)
    mine = within(actor.reach)
    own = {key: whole for key in technicians if whole or (mine is not None and key not in mine)}
    depots = technicians_at(key for key, problem in own.items() if not problem)
    return {
        key: problem or f"Of the depot {depots[key]}: as {actor.role_name} you plan nobody there"
        for key, problem in own.items()
    }


def openings_reached(actor: Actor, visit: Visit, found: Mapping[str, Any]) -> dict[str, Any]:
    """Openings without those out of reach; who is in them only is excluded, with the reason."""
    named = {seat["technician_id"]: seat["technician"] for row in found["openings"] for seat in row["seats"]}
    outside = out_of_reach(actor, visit, named)
    kept = [row for row in found["openings"] if not any(seat["technician_id"] in outside for seat in row["seats"])]
    excluded = [
        {"technician_id": key, "technician": named[key], "reasons": [reason]} for key, reason in outside.items()
    ]
    inside = {seat["technician_id"] for row in kept for seat in row["seats"]}
    possible = len(inside) if outside else found["possible"]
    return {**found, "openings": kept, "possible": possible, "excluded": [*excluded, *found["excluded"]]}

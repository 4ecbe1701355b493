"""What may follow after what: told to a phone that will have nobody to ask."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from core.orders.assignments import Part, own_steps
from core.orders.states import Step, VisitState, transition


@dataclass(frozen=True, kw_only=True)
class Stand:
    """How a visit may stand for somebody, and which steps lead from there to which other stand (by its number)."""

    state: VisitState
    steps: tuple[tuple[Step, int], ...]


def what_follows(state: VisitState, part: Part) -> Sequence[Stand]:
    """All stands that somebody can bring a visit to by own steps, the present one first.

    The same as asking `own_steps` after each of them, so a phone without signal offers what the server would.
    """
    numbers: dict[tuple[VisitState, Part], int] = {(state, part): 0}
    order = [(state, part)]
    found: list[Stand] = []
    for now, own in order:  # grows while it is walked
        steps = []
        for step in own_steps(now, own):
            key = _after(now, own, step)
            if key not in numbers:
                numbers[key] = len(order)
                order.append(key)
            steps.append((step, numbers[key]))
        found.append(Stand(state=now, steps=tuple(steps)))
    return found


_MARKS = {Step.ACCEPT: "accepted", Step.DEPART: "departed", Step.ARRIVE: "arrived", Step.FINISH: "finished"}


def _after(state: VisitState, part: Part, step: Step) -> tuple[VisitState, Part]:
    """Whoever leads moves the visit; whoever goes along only themselves, unless they give it back."""
    if part.leads or step is Step.DECLINE:
        return transition(step).target, part if part.leads else replace(part, finished=True)
    return state, replace(part, **{_MARKS[step]: True})

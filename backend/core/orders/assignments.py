"""What each of those who go to a visit may do: whoever leads takes its steps, whoever goes along their own."""

from dataclasses import dataclass

from core.orders.states import Step, VisitState, steps_from
from core.roles import Action

_S = VisitState
_TOLD = frozenset({_S.SENT, _S.ACCEPTED})
# While it is so, somebody can still come.
_RUNNING = _TOLD | {_S.EN_ROUTE, _S.ON_SITE, _S.ON_HOLD}


_NEXT_FIRST = [Step.ACCEPT, Step.DEPART, Step.ARRIVE, Step.FINISH, Step.RESUME, Step.HOLD, Step.DECLINE]


@dataclass(frozen=True, kw_only=True)
class Part:
    """How far somebody is with a visit."""

    leads: bool
    accepted: bool = False
    departed: bool = False
    arrived: bool = False
    finished: bool = False


def own_steps(state: VisitState, part: Part) -> list[Step]:
    """What a technician may do to a visit, the next thing first.

    The visit's state follows whoever leads. Who goes along accepts, sets out, arrives and leaves for themselves; that
    they decline gives the whole visit back, since it cannot be done as it was planned.
    """
    if part.leads:
        return sorted(steps_from(state, {Action.WORK_IN_FIELD}), key=_NEXT_FIRST.index)
    if part.finished or state not in _RUNNING:
        return []
    if part.arrived:
        return [Step.FINISH]
    if part.departed:
        return [Step.ARRIVE]
    decline = [Step.DECLINE] if state in _TOLD else []
    return [Step.DEPART, Step.ARRIVE, *decline] if part.accepted else [Step.ACCEPT, *decline]

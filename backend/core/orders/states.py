"""The table of visit states. Everything that asks "may this happen, and who may do it" asks here."""

from collections.abc import Collection, Iterable
from dataclasses import dataclass
from enum import StrEnum

from core.roles import Action


class VisitState(StrEnum):
    OPEN = "open"
    PLACED = "placed"
    SENT = "sent"
    ACCEPTED = "accepted"
    EN_ROUTE = "en_route"
    ON_SITE = "on_site"
    ON_HOLD = "on_hold"
    DONE = "done"
    REVIEWED = "reviewed"
    MISSED = "missed"
    CANCELLED = "cancelled"

    @property
    def is_under_way(self) -> bool:
        """A technician is on the way to it or at it."""
        return self in (VisitState.EN_ROUTE, VisitState.ON_SITE, VisitState.ON_HOLD)

    @property
    def is_ended(self) -> bool:
        return self in (VisitState.DONE, VisitState.REVIEWED, VisitState.MISSED, VisitState.CANCELLED)


class Step(StrEnum):
    """What somebody does to a visit. A declined visit is open again; the step is kept as its stamp."""

    PLACE = "place"
    UNPLACE = "unplace"
    SEND = "send"
    ACCEPT = "accept"
    DECLINE = "decline"
    DEPART = "depart"
    ARRIVE = "arrive"
    HOLD = "hold"
    RESUME = "resume"
    FINISH = "finish"
    REVIEW = "review"
    MISS = "miss"
    CANCEL = "cancel"
    REOPEN = "reopen"


@dataclass(frozen=True, kw_only=True)
class Transition:
    """One row of the table."""

    step: Step
    sources: frozenset[VisitState]
    target: VisitState
    actions: frozenset[Action]
    needs_note: bool = False


# Whoever has one of these actions takes the step.
OFFICE = frozenset({Action.CHANGE_VISITS})
# The office may stamp for a technician whose phone is dead; the stamp says who did it.
FIELD = OFFICE | {Action.WORK_IN_FIELD}
REVIEW = frozenset({Action.REVIEW})

_S = VisitState
_NOT_STARTED = frozenset({_S.PLACED, _S.SENT, _S.ACCEPTED})


def _row(
    step: Step,
    sources: Iterable[VisitState],
    target: VisitState,
    actions: frozenset[Action],
    *,
    needs_note: bool = False,
) -> Transition:
    return Transition(step=step, sources=frozenset(sources), target=target, actions=actions, needs_note=needs_note)


TABLE: tuple[Transition, ...] = (
    # Moving a visit that was sent makes it placed again: what was told is no longer true.
    _row(Step.PLACE, _NOT_STARTED | {_S.OPEN}, _S.PLACED, OFFICE),
    _row(Step.UNPLACE, _NOT_STARTED, _S.OPEN, OFFICE),
    _row(Step.SEND, {_S.PLACED}, _S.SENT, OFFICE),
    _row(Step.ACCEPT, {_S.SENT}, _S.ACCEPTED, FIELD),
    _row(Step.DECLINE, {_S.SENT, _S.ACCEPTED}, _S.OPEN, FIELD, needs_note=True),
    _row(Step.DEPART, {_S.ACCEPTED}, _S.EN_ROUTE, FIELD),
    # A technician who forgot to stamp the departure still arrives.
    _row(Step.ARRIVE, {_S.ACCEPTED, _S.EN_ROUTE}, _S.ON_SITE, FIELD),
    _row(Step.HOLD, {_S.ON_SITE}, _S.ON_HOLD, FIELD, needs_note=True),
    _row(Step.RESUME, {_S.ON_HOLD}, _S.ON_SITE, FIELD),
    _row(Step.FINISH, {_S.ON_SITE}, _S.DONE, FIELD, needs_note=True),
    _row(Step.REVIEW, {_S.DONE}, _S.REVIEWED, REVIEW),
    _row(Step.MISS, _NOT_STARTED | {_S.EN_ROUTE}, _S.MISSED, OFFICE, needs_note=True),
    _row(Step.CANCEL, _NOT_STARTED | {_S.OPEN}, _S.CANCELLED, OFFICE, needs_note=True),
    # What is on hold may have to wait for a part, and is planned anew when that is there.
    _row(Step.REOPEN, {_S.CANCELLED, _S.MISSED, _S.ON_HOLD}, _S.OPEN, OFFICE),
)
_BY_STEP = {row.step: row for row in TABLE}


def transition(step: Step) -> Transition:
    """The row of a step."""
    return _BY_STEP[step]


def is_movable(state: VisitState) -> bool:
    """Whether a visit can be given a place, or another one."""
    return state in _BY_STEP[Step.PLACE].sources


def steps_from(state: VisitState, actions: Collection[Action]) -> list[Step]:
    """What somebody with these actions may do to a visit in `state`, in the table's order."""
    return [row.step for row in TABLE if state in row.sources and not row.actions.isdisjoint(actions)]


class OrderState(StrEnum):
    DRAFT = "draft"
    OPEN = "open"
    PLANNED = "planned"
    UNDER_WAY = "under_way"
    DONE = "done"
    REVIEWED = "reviewed"
    BILLED = "billed"
    CANCELLED = "cancelled"

    @property
    def is_over(self) -> bool:
        """Nothing is to be done for it any more."""
        return self in (OrderState.DONE, OrderState.REVIEWED, OrderState.BILLED, OrderState.CANCELLED)


def order_state(visits: Iterable[VisitState]) -> OrderState:
    """The state of a work order, from the states of its visits.

    Cancelled visits don't count unless all are cancelled; a missed one leaves the order open.
    """
    states = list(visits)
    if not states:
        return OrderState.DRAFT
    live = [state for state in states if state is not VisitState.CANCELLED]
    if not live:
        return OrderState.CANCELLED
    if all(state is VisitState.REVIEWED for state in live):
        return OrderState.REVIEWED
    finished = {VisitState.DONE, VisitState.REVIEWED}
    if all(state in finished for state in live):
        return OrderState.DONE
    if any(state.is_under_way or state in finished for state in live):
        return OrderState.UNDER_WAY
    if any(state in (VisitState.OPEN, VisitState.MISSED) for state in live):
        return OrderState.OPEN
    return OrderState.PLANNED

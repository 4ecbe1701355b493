"""What can become of a quote, by whom, and when."""

from collections.abc import Mapping
from enum import StrEnum


class QuoteState(StrEnum):
    DRAFT = "draft"
    SENT = "sent"
    APPROVED = "approved"
    REFUSED = "refused"
    EXPIRED = "expired"
    WITHDRAWN = "withdrawn"

    @property
    def is_open(self) -> bool:
        """Whether it may still bring work as it is."""
        return self in (QuoteState.DRAFT, QuoteState.SENT)

    @property
    def is_lost(self) -> bool:
        return self in (QuoteState.REFUSED, QuoteState.EXPIRED, QuoteState.WITHDRAWN)


class QuoteStep(StrEnum):
    """`REVISE` begins a new version; the one that was sent stays as it is, and open, until the new one is sent."""

    SEND = "send"
    REVISE = "revise"
    WITHDRAW = "withdraw"
    APPROVE = "approve"
    REFUSE = "refuse"
    EXPIRE = "expire"


_D, _S, _A, _R, _E, _W = QuoteState
_STEPS: Mapping[QuoteStep, Mapping[QuoteState, QuoteState]] = {
    QuoteStep.SEND: {_D: _S},
    QuoteStep.REVISE: {_S: _S, _R: _D, _E: _D, _W: _D},
    QuoteStep.WITHDRAW: {_D: _W, _S: _W},
    QuoteStep.APPROVE: {_S: _A},
    QuoteStep.REFUSE: {_S: _R},
    QuoteStep.EXPIRE: {_S: _E},
}


def after(state: QuoteState, step: QuoteStep, *, revising: bool = False) -> QuoteState | None:
    """What a quote becomes by a step; None: it cannot be taken. Who revises one that was sent may send again."""
    if step is QuoteStep.SEND and revising and state is _S:
        return _S
    if step is QuoteStep.REVISE and revising:
        return None
    return _STEPS[step].get(state)


def may_be_edited(state: QuoteState, *, revising: bool) -> bool:
    """What was sent is never edited: only a draft, or the version that is to replace it."""
    return state is _D or (state is _S and revising)


def steps_from(state: QuoteState, *, revising: bool = False) -> tuple[QuoteStep, ...]:
    """What somebody in the office can do with it now."""
    asked = (QuoteStep.SEND, QuoteStep.REVISE, QuoteStep.WITHDRAW)
    return tuple(step for step in asked if after(state, step, revising=revising) is not None)

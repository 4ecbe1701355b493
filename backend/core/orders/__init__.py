"""What may happen to a visit and a work order, and who may do it."""

from core.orders.ahead import Stand, what_follows
from core.orders.assignments import Part, own_steps
from core.orders.standby import would_come
from core.orders.states import (
    OrderState,
    Step,
    Transition,
    VisitState,
    is_movable,
    order_state,
    steps_from,
    transition,
)

__all__ = [
    "OrderState",
    "Part",
    "Stand",
    "Step",
    "Transition",
    "VisitState",
    "is_movable",
    "order_state",
    "own_steps",
    "steps_from",
    "transition",
    "what_follows",
    "would_come",
]

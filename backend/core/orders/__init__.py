"""What may happen to a visit and a work order, and who may do it."""

from core.orders.standby import would_come
from core.orders.states import (
    OrderState,
    Step,
    Transition,
    VisitState,
    order_state,
    steps_from,
    transition,
)

__all__ = ["OrderState", "Step", "Transition", "VisitState", "order_state", "steps_from", "transition", "would_come"]

"""What an order shows of its visits: its state, its next promise, its deadline."""

from apps.orders.models import Visit, WorkOrder
from core.orders import VisitState, order_state


def follow(order_id: int) -> None:
    """Write down what follows from the visits. To be called by every command that changes one."""
    columns = ("state", "promise_start", "promise_end", "due", "part")
    rows = list(Visit.objects.filter(order_id=order_id).order_by("part", "id").values_list(*columns))
    state = order_state(VisitState(row[0]) for row in rows)
    ahead = [row for row in rows if not VisitState(row[0]).is_ended]
    promised = min((row for row in ahead if row[1] is not None), key=lambda row: row[1], default=None)
    due = min((row[3] for row in ahead if row[3] is not None), default=None)
    WorkOrder.objects.filter(pk=order_id).update(
        state=state, promise_start=promised[1] if promised else None, promise_end=promised[2] if promised else None,
        due=due,
    )  # fmt: skip

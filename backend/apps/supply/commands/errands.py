"""What becomes of promised parts when the stop at which they are fetched is moved, done or called off."""

from datetime import timedelta

from apps.orders.events import VisitStepped
from apps.stock import commands as stock
from apps.stock.models import Transfer
from core.orders import Step
from foundation import audit
from foundation.actors import Actor
from foundation.errors import Conflict
from foundation.outside import Outside

_GONE = frozenset({Step.UNPLACE, Step.CANCEL, Step.MISS, Step.DECLINE})


def follow_errand(event: VisitStepped) -> None:
    """Part of the step: what is fetched at a stop goes with it."""
    rows = Transfer.objects.select_for_update(of=("self",)).select_related("part", "source").filter(errand=event.visit)
    for row in rows.order_by("id"):
        if event.step is Step.FINISH and row.state == "open":
            _hand_over(event, row)
        elif event.step in _GONE and row.state == "open":
            _write(row, state="dropped", ended_at=event.at)
        elif event.step is Step.PLACE and row.state != "done":
            _write(row, state="open", ended_at=None, **_when(event, row))


def _when(event: VisitStepped, row: Transfer) -> dict[str, object]:
    """There when the stop is over; on the van of whoever goes."""
    visit = event.visit
    found: dict[str, object] = {}
    if visit.start is not None:
        found["at"] = visit.start + timedelta(seconds=visit.duration_seconds or 0)
    if visit.technician is not None:
        van = stock.place_of_van(visit.technician)
        if van.pk != row.source_id:
            found["target_id"] = van.pk
    return found


def _hand_over(event: VisitStepped, row: Transfer) -> None:
    """It has changed hands. What was not there after all is noted, and the stop is finished all the same."""
    actor: Actor = Outside(name="the stop to fetch parts")
    try:
        stock.complete_transfers(actor=actor, now=event.at, transfer_ids=[row.pk])
    except Conflict as short:
        _write(row, state="dropped", ended_at=event.at)
        audit.record(
            actor=actor, now=event.at, action="short", entity="stock place", entity_id=row.source_id,
            sentence=f"was to hand over {row.quantity} × {row.part.name}: {short.sentence}"[:300],
        )  # fmt: skip


def _write(row: Transfer, **values: object) -> None:
    for name, value in values.items():
        setattr(row, name, value)
    row.version += 1
    row.save(update_fields=["version", *(name.removesuffix("_id") for name in values)])

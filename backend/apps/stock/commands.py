"""Counting vans, and taking from them."""

from collections.abc import Mapping
from datetime import datetime
from typing import Any

from django.db import transaction

from apps.people import queries as people
from apps.stock import queries
from apps.stock.models import MOST, VanPart
from core.roles import Action
from foundation import audit, live, undo
from foundation.actors import Actor, require
from foundation.errors import Conflict, Rejected
from foundation.undo import Values, check_unchanged


@transaction.atomic
def count(
    *, actor: Actor, now: datetime, technician_id: int, part: str, quantity: int | None, version: int | None
) -> VanPart | None:
    """Say how many of a part lie on a van.

    Parameters
    ----------
    quantity
        None: the van does not carry this part any more.
    version
        Of the row that was seen; None: the part was not on the list.

    Raises
    ------
    Conflict
        When somebody counted, or a visit took some, since.
    """
    require(actor, Action.PLAN)
    technician = people.technician(technician_id)
    if not part.strip():
        raise Rejected("Say which part.", field="part")
    (name,) = queries.spelled({part: 1})
    if quantity is not None and not 0 <= quantity <= MOST:
        raise Rejected(f"A quantity is 0 to {MOST:,}.", field="quantity")
    row = VanPart.objects.select_for_update().filter(technician=technician, part__iexact=name).first()
    if (row.version if row else None) != version:
        raise Conflict(
            f"{row.part}: {row.quantity} on the van by now. Shown as it is."
            if row
            else f"{name} is not on the list of this van any more.",
            current_version=row.version if row else None,
        )
    if row is None:
        if quantity is None:
            return None
        row = VanPart(technician=technician, part=name, version=0)
    before = row.quantity if row.version else None
    if quantity is None:
        row.delete()
        said = f"took {row.part} off the list of the van of {technician.name}"
    else:
        row.quantity = quantity
        row.version += 1
        row.save()
        said = f"counted {quantity} × {row.part} on the van of {technician.name}"
    _tell(actor, now, technician_id, said, part=row.part, quantity=[before, quantity])
    count_ = {"part": row.part, "quantity": before}
    undo.record(
        actor=actor, now=now, subject="van", key=technician_id, sentence=said,
        before=count_, after=count_ | {"quantity": quantity},
    )  # fmt: skip
    return row if quantity is not None else None


def put_count_back(*, actor: Actor, now: datetime, key: int, wanted: Values, expected: Values) -> int:
    """See `PutBack`; the key is the technician's."""
    found = VanPart.objects.filter(technician_id=key, part=expected["part"]).first()
    check_unchanged({"part": expected["part"], "quantity": found.quantity if found else None}, expected)
    version = found.version if found else None
    count(actor=actor, now=now, technician_id=key, version=version, **wanted)
    return key


def take(*, actor: Actor, now: datetime, technician_id: int, parts: Mapping[str, int], visit_id: int) -> None:
    """What a finished visit took from the van, as far as the van is counted; part of the step that finishes it."""
    rows = VanPart.objects.select_for_update().filter(technician_id=technician_id, part__in=list(parts)).order_by("pk")
    taken = {}
    for row in rows:
        taken[row.part] = min(row.quantity, parts[row.part])
        row.quantity -= taken[row.part]
        row.version += 1
        row.save()
    if taken:
        words = ", ".join(f"{number} × {part}" for part, number in taken.items())
        _tell(actor, now, technician_id, f"took {words} from the van", visit=visit_id, parts=taken)


def _tell(actor: Actor, now: datetime, technician_id: int, sentence: str, **more: Any) -> None:
    audit.record(
        actor=actor, now=now, action="van", entity="technician", entity_id=technician_id, sentence=sentence, **more
    )
    live.announce("technician", ids=[technician_id], technicians=[technician_id])

"""Counting vans, and taking from them."""

from collections.abc import Mapping, Sequence
from datetime import datetime
from typing import Any

from django.db import transaction

from apps.people import queries as people
from apps.stock import queries
from apps.stock.models import MOST, Part, VanPart
from core.roles import Action
from foundation import audit, live, undo
from foundation.actors import Actor, require
from foundation.errors import Conflict, Rejected
from foundation.named import called
from foundation.undo import Values, check_unchanged


@transaction.atomic
def count(
    *, actor: Actor, now: datetime, technician_id: int, part_name: str, quantity: int | None, version: int | None
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
    if not part_name.strip():
        raise Rejected("Say which part.", field="part")
    if quantity is not None and not 0 <= quantity <= MOST:
        raise Rejected(f"A quantity is 0 to {MOST:,}.", field="quantity")
    part = _called(actor, now, part_name.strip()) if quantity is not None else queries.part_called(part_name.strip())
    if part is None:
        return None
    row = VanPart.objects.select_for_update().filter(technician=technician, part=part).first()
    if (row.version if row else None) != version:
        raise Conflict(
            f"{part.name}: {row.quantity} on the van by now. Shown as it is."
            if row
            else f"{part.name} is not on the list of this van any more.",
            current_version=row.version if row else None,
        )
    if row is None:
        if quantity is None:
            return None
        row = VanPart(technician=technician, part=part, version=0)
    before = row.quantity if row.version else None
    if quantity is None:
        row.delete()
        said = f"took {part.name} off the list of the van of {technician.name}"
    else:
        row.quantity = quantity
        row.version += 1
        row.save()
        said = f"counted {quantity} × {part.name} on the van of {technician.name}"
    _tell(actor, now, technician_id, said, part=part.name, quantity=[before, quantity])
    count_ = {"part": part.code, "quantity": before}
    undo.record(
        actor=actor, now=now, subject="van", key=technician_id, sentence=said,
        before=count_, after=count_ | {"quantity": quantity},
    )  # fmt: skip
    return row if quantity is not None else None


def put_count_back(*, actor: Actor, now: datetime, key: int, wanted: Values, expected: Values) -> int:
    """See `PutBack`; the key is the technician's."""
    part = Part.objects.get(code=expected["part"])
    found = VanPart.objects.filter(technician_id=key, part=part).first()
    check_unchanged({"part": expected["part"], "quantity": found.quantity if found else None}, expected)
    version = found.version if found else None
    count(actor=actor, now=now, technician_id=key, version=version, part_name=part.name, quantity=wanted["quantity"])
    return key


def take(*, actor: Actor, now: datetime, technician_id: int, parts: Mapping[str, int], visit_id: int) -> None:
    """What a finished visit took from the van, as far as the van is counted; part of the step that finishes it."""
    rows = (
        VanPart.objects.select_for_update(of=("self",))
        .filter(technician_id=technician_id, part__code__in=list(parts))
        .order_by("pk")
    )
    taken = {}
    for row in rows.select_related("part"):
        number = min(row.quantity, parts[row.part.code])
        taken[row.part.name] = number
        row.quantity -= number
        row.version += 1
        row.save()
    if taken:
        words = ", ".join(f"{number} × {part}" for part, number in taken.items())
        _tell(actor, now, technician_id, f"took {words} from the van", visit=visit_id, parts=taken)


@transaction.atomic
def name_parts(*, actor: Actor, now: datetime, names: Sequence[str]) -> list[Part]:
    """The parts of these names in their order; those that are not known yet are made."""
    require(actor, Action.CHANGE_VISITS)
    if not all(name.strip() for name in names):
        raise Rejected("A part needs a name.", field="names")
    return [_called(actor, now, name.strip()) for name in names]


def _called(actor: Actor, now: datetime, name: str) -> Part:
    part, made = called(Part, name)
    if made:
        audit.record(
            actor=actor,
            now=now,
            action="make",
            entity="part",
            entity_id=part.pk,
            sentence=f"named the part {part.name}",
        )
    return part


def _tell(actor: Actor, now: datetime, technician_id: int, sentence: str, **more: Any) -> None:
    audit.record(
        actor=actor, now=now, action="van", entity="technician", entity_id=technician_id, sentence=sentence, **more
    )
    live.announce("technician", ids=[technician_id], technicians=[technician_id])

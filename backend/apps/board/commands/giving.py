"""Urgent work given to somebody at once, and what gives way to it: one decision, one undo."""

from collections.abc import Sequence
from datetime import datetime

from django.db import transaction

from apps.appointments.settling import PlacedElsewhere, fields_agreed, placed_elsewhere
from apps.board.commands.placing import edit, place, unplace
from apps.board.commands.sending import send
from apps.board.inputs import Move
from apps.orders.commands import TOLD
from apps.orders.models import Visit
from apps.scheduling.locks import lock_places, lock_visits
from apps.scheduling.undoing import told_with_it
from core.orders import VisitState
from core.roles import Action
from core.scheduling import Verdict
from foundation.actors import Actor, require
from foundation.errors import Rejected
from foundation.undo import one_intention


@transaction.atomic
@one_intention()
def give(
    *, actor: Actor, now: datetime, visit_id: int, version: int, technician_id: int, start: int, because: str = "",
    moves: Sequence[Move] = (),
) -> tuple[Visit, Verdict]:  # fmt: skip
    """Give urgent work to somebody at once: place it and tell the phone.

    Undone, everything goes back to where it was, and who was told is told that it is no longer theirs.

    Parameters
    ----------
    because
        Why it is done where a limit asks for a reason, here or at what gives way.
    moves
        What gives way. Whose technician was told of it before is told again where it goes.

    Raises
    ------
    Rejected, Conflict
        As for `place`, for the visit or for what gives way; nothing is changed then.
    """
    require(actor, Action.PLAN)
    if len({visit_id, *(move.visit_id for move in moves)}) <= len(moves):
        raise Rejected("Each visit gives way once.", field="moves")
    _lock_all(visit_id, technician_id, start, moves)
    # The last one first: who comes later on the same day is not judged on one that has yet to move.
    for move in sorted(moves, key=lambda move: -(move.start or 0)):
        _make_room(actor, now, move, because)
    visit, verdict = place(
        actor=actor, now=now, visit_id=visit_id, version=version, technician_id=technician_id, start=start,
        because=because,
    )  # fmt: skip
    elsewhere = placed_elsewhere(visit)
    if elsewhere is not None:
        # Somebody comes now: what was promised for another day is not waited for any more.
        visit = _promised_now(actor, now, visit, elsewhere)
    return _tell(actor, now, visit), verdict


def _lock_all(visit_id: int, technician_id: int, start: int, moves: Sequence[Move]) -> None:
    ids = [visit_id, *(move.visit_id for move in moves)]
    lock_visits(ids)
    mates = dict(Visit.objects.filter(pk__in=ids).values_list("pk", "mates"))
    places = [(person, start) for person in (technician_id, *mates.get(visit_id, ()))]
    for move in moves:
        if move.technician_id is not None and move.start is not None:
            places += [(person, move.start) for person in (move.technician_id, *mates.get(move.visit_id, ()))]
    lock_places(places)


def _make_room(actor: Actor, now: datetime, move: Move, because: str) -> None:
    was = Visit.objects.filter(pk=move.visit_id).values_list("state", flat=True).first()
    if move.technician_id is None or move.start is None:
        visit = unplace(actor=actor, now=now, visit_id=move.visit_id, version=move.version)
    else:
        visit, _verdict = place(
            actor=actor, now=now, visit_id=move.visit_id, version=move.version, technician_id=move.technician_id,
            start=move.start, because=because,
        )  # fmt: skip
    if was is not None and VisitState(was) in TOLD and VisitState(visit.state) is VisitState.PLACED:
        _tell(actor, now, visit)


def _promised_now(actor: Actor, now: datetime, visit: Visit, elsewhere: PlacedElsewhere) -> Visit:
    fields = fields_agreed(visit, elsewhere)
    return edit(actor=actor, now=now, visit_id=visit.pk, version=visit.version, fields=fields)


def _tell(actor: Actor, now: datetime, visit: Visit) -> Visit:
    # What gives way keeps its promise, also one for another day.
    told = send(actor=actor, now=now, visit_id=visit.pk, version=visit.version, how="keep")
    told_with_it(actor, told, since=visit.version)
    return told

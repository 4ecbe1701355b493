"""Undo and redo: every change a dispatcher makes leaves what was before it and what came after it.

One's own changes only, the last one first; what was done in one step - an accepted proposal, many visits at once -
goes back, and forth again, in one step, wholly or not at all.
"""

from collections.abc import Sequence
from datetime import datetime, timedelta
from typing import Any

from django.db import transaction
from django.db.models import QuerySet

from apps.company.queries import settings
from apps.orders import commands as orders
from apps.orders import queries as order_queries
from apps.orders.commands import TOLD, Placement
from apps.orders.events import ChangeTakenBack
from apps.orders.lines import line_of
from apps.orders.models import Visit
from apps.planning import judging
from apps.planning.commands.locks import lock_places, lock_visits
from apps.planning.commands.restoring import put_back
from apps.planning.models import Change
from core.orders import Step, VisitState
from core.roles import Action
from foundation import audit, events
from foundation.actors import Actor, require, screen_of
from foundation.errors import Conflict, NotFound
from foundation.moments import to_datetime, to_moment

_DATES = ("promise_start", "promise_end", "earliest", "due")


def undo(*, actor: Actor, now: datetime, change_id: int | None = None) -> tuple[Visit | None, str]:
    """Take back one's own last change (or a given one): the visit if it was one, and what was undone.

    Raises
    ------
    NotFound
        When there is nothing to undo.
    Conflict
        When a visit went on since: was sent, moved by somebody, accepted.
    """
    require(actor, Action.PLAN)
    rows = _own(actor).filter(undone=False)
    change = (rows.filter(pk=change_id) if change_id else rows).order_by("-id").first()
    if change is None:
        raise NotFound("There is nothing to undo.", code="nothing_to_undo")
    together = _together(rows, change, newest_first=True)
    # Marked before the attempt, and kept if it fails: it must not block the undoing of what came before it.
    marked = Change.objects.filter(pk__in=[row.pk for row in together], undone=False).update(undone=True)
    if marked < len(together):
        raise NotFound("That was undone already.", code="nothing_to_undo")
    with transaction.atomic():
        _lock(together, back=True)
        restored = _go_through(actor, now, together, back=True)
        Change.objects.filter(pk__in=[row.pk for row in together]).update(redoable=True)
    return restored, _sentence(together)


def redo(*, actor: Actor, now: datetime) -> tuple[Visit | None, str]:
    """Do again what was undone last, as long as nothing else was done since.

    Raises
    ------
    NotFound, Conflict
        As for `undo`.
    """
    require(actor, Action.PLAN)
    rows = _own(actor).filter(redoable=True)
    change = rows.order_by("id").first()
    if change is None:
        raise NotFound("There is nothing to do again.", code="nothing_to_redo")
    together = _together(rows, change, newest_first=False)
    ids = [row.pk for row in together]
    if Change.objects.filter(pk__in=ids, redoable=True).update(redoable=False) < len(together):
        raise NotFound("That was done again already.", code="nothing_to_redo")
    with transaction.atomic():
        _lock(together, back=False)
        visit = _go_through(actor, now, together, back=False)
        Change.objects.filter(pk__in=ids).update(undone=False)
    return visit, _sentence(together)


def _lock(changes: Sequence[Change], *, back: bool) -> None:
    """The visits, and the days that they go back to, as for whoever places something there at the same moment."""
    lock_visits(change.visit_id for change in changes if change.visit_id is not None)
    wanted = [change.before if back else change.after for change in changes if change.visit_id is not None]
    lock_places(
        (hand, row["start"])
        for row in wanted
        if row.get("technician_id") is not None
        for hand in (row["technician_id"], *(row.get("mates") or ()))
    )


def _own(actor: Actor) -> QuerySet[Change]:
    """What this person did at this screen."""
    return Change.objects.filter(actor_id=actor.id, screen=screen_of(actor))


def _together(rows: QuerySet[Change], change: Change, *, newest_first: bool) -> list[Change]:
    if change.step is None:
        return [change]
    return list(rows.filter(step=change.step).order_by("-id" if newest_first else "id"))


def _sentence(changes: Sequence[Change]) -> str:
    return changes[0].sentence if len(changes) == 1 else f"{len(changes)} changes made in one step"


def _go_through(actor: Actor, now: datetime, changes: Sequence[Change], *, back: bool) -> Visit | None:
    """A visit that one step changed twice is, after the first of them, as the next one knows it."""
    versions: dict[int, int] = {}
    restored: list[Visit] = []
    for change in changes:
        if change.visit_id is None:
            put_back(actor, now, change, back=back)
            continue
        change.version = versions.get(change.visit_id, change.version)
        visit = _one(actor, now, change, change.visit_id, back=back)
        versions[visit.pk] = visit.version
        restored.append(visit)
    return restored[0] if restored else None


def _one(actor: Actor, now: datetime, change: Change, visit_id: int, *, back: bool) -> Visit:
    visit = order_queries.visit(visit_id)
    if visit.version != change.version:
        newest = audit.since("visit", visit.pk, change.version)
        who = f": {newest[0].actor_name} {newest[0].sentence}" if newest else ""
        verb = "undone" if back else "done again"
        raise Conflict(f"Not {verb}, {visit.order.number} has gone on since{who}.", code="gone_on")
    restored = _restore(actor, now, visit, change.before if back else change.after, since=change.at, back=back)
    if back:
        restored = _as_told(actor, now, restored, change)
        events.publish(ChangeTakenBack(visit=restored, seen=change.seen, led_to=change.led_to, at=now))
    # This change, and its neighbour on the way, now lead to the visit as it is.
    Change.objects.filter(pk=change.pk).update(version=restored.version)
    others = Change.objects.filter(visit=visit)
    if back:
        others.filter(undone=False, led_to=change.seen).update(version=restored.version)
    else:
        others.filter(redoable=True, seen=change.led_to).update(version=restored.version)
    return restored


def _check_free(visit: Visit, wanted: dict[str, Any], *, since: datetime, back: bool) -> None:
    """Nobody is put on top of work that has come there since.

    Raises
    ------
    Conflict
    """
    over = judging.overlapped(
        line=line_of(visit), technician_id=wanted["technician_id"], start=wanted["start"], mates=wanted.get("mates")
    )
    for other in over:
        entry = audit.last("visit", other.id, action=Step.PLACE)
        if entry is not None and entry.at > since:
            verb = "undone" if back else "done again"
            raise Conflict(f"Not {verb}, {entry.actor_name} has placed {other.number} there since.", code="gone_on")


def _restore(
    actor: Actor, now: datetime, visit: Visit, wanted: dict[str, Any], *, since: datetime, back: bool
) -> Visit:
    if "fields" in wanted:
        changes = {
            name: to_datetime(value) if name in _DATES and value is not None else value
            for name, value in wanted["fields"].items()
        }
        fields = orders.fields_of(visit, **changes)
        visit, _ = orders.change_visit(actor=actor, now=now, visit_id=visit.pk, version=visit.version, fields=fields)
        return visit
    verb = "undid" if back else "did again"
    if "standby" in wanted:
        said = "put it on standby again" if wanted["standby"] else "took it off standby"
        return orders.set_standby(
            actor=actor, now=now, visit_id=visit.pk, version=visit.version, standby=wanted["standby"], sentence=said
        )
    if wanted.get("cancelled") and not back:
        return _step(actor, now, visit, Step.CANCEL, f"{verb}: cancelled it", note=wanted["cancelled"])
    if VisitState(visit.state) is VisitState.CANCELLED:
        visit = _step(actor, now, visit, Step.REOPEN, f"{verb} cancelling it")
    if wanted["technician_id"] is None:
        if visit.technician_id is None:
            return visit
        visit = _crew_size(actor, now, visit, wanted)
        return _step(actor, now, visit, Step.UNPLACE, f"{verb}: back to the backlog")
    visit = _crew_size(actor, now, visit, wanted)
    placement = Placement(
        technician_id=wanted["technician_id"], start=to_datetime(wanted["start"]), mates=wanted.get("mates")
    )
    _check_free(visit, wanted, since=since, back=back)
    return _step(actor, now, visit, Step.PLACE, "put it back where it was" if back else f"{verb}: placed it", placement)


def _as_told(actor: Actor, now: datetime, visit: Visit, change: Change) -> Visit:
    """Back where it was when it was sent it is sent, and nobody is told anew; accepted as well, unless the technician
    may have heard meanwhile that it is not so."""
    was = change.before.get("state")
    if was is None or VisitState(was) not in TOLD or VisitState(visit.state) is not VisitState.PLACED:
        return visit
    visit = orders.take_step(
        actor=actor, now=now, visit_id=visit.pk, version=visit.version, step=Step.SEND, tells="nobody",
        sentence="left it sent, as it was before",
    )  # fmt: skip
    unheard = now - change.at < timedelta(seconds=settings().message_wait_seconds)
    if VisitState(was) is VisitState.ACCEPTED and unheard:
        return _step(actor, now, visit, Step.ACCEPT, "left it accepted, as it was before")
    return visit


def _crew_size(actor: Actor, now: datetime, visit: Visit, wanted: dict[str, Any]) -> Visit:
    """A standing crew on a visit for fewer made it larger: that goes back too."""
    size = wanted.get("crew", visit.crew)
    if size == visit.crew:
        return visit
    fields = orders.fields_of(visit, crew=size)
    changed, _ = orders.change_visit(actor=actor, now=now, visit_id=visit.pk, version=visit.version, fields=fields)
    return changed


def _step(
    actor: Actor, now: datetime, visit: Visit, step: Step, sentence: str, placement: Placement | None = None,
    note: str = "",
) -> Visit:  # fmt: skip
    return orders.take_step(
        actor=actor, now=now, visit_id=visit.pk, version=visit.version, step=step, sentence=sentence,
        placement=placement, note=note,
    )  # fmt: skip


def placement_of(visit: Visit) -> dict[str, Any]:
    return {
        "technician_id": visit.technician_id, "start": to_moment(visit.start), "mates": visit.mates,
        "crew": visit.crew, "state": visit.state,
    }  # fmt: skip


def stored_fields(values: dict[str, Any]) -> dict[str, Any]:
    """Fields of a visit as JSON."""
    return {name: to_moment(value) if name in _DATES else value for name, value in values.items()}


def keep(
    actor: Actor, now: datetime, visit: Visit, sentence: str, before: dict[str, Any], *, step: int | None = None
) -> Change:
    """Keep what a change did. `step`: the first change of those that go back together; 0: this is the first."""
    _own(actor).filter(redoable=True).update(redoable=False)
    after: dict[str, Any]
    if "fields" in before:
        after = {"fields": stored_fields({name: getattr(visit, name) for name in before["fields"]})}
    elif "standby" in before:
        after = {"standby": visit.standby}
    elif "cancelled" in before:
        after = {"cancelled": before["cancelled"]}
    else:
        after = placement_of(visit)
    change = Change.objects.create(
        at=now, actor_id=actor.id, screen=screen_of(actor), visit=visit, version=visit.version,
        led_to=visit.version, seen=visit.version - 1, sentence=sentence, before=before, after=after, step=step or None,
    )  # fmt: skip
    if step == 0:
        change.step = change.pk
        change.save(update_fields=["step"])
    return change


def went_on(actor: Actor, visit: Visit, *, since: int) -> None:
    """A step belongs to the change before it, as telling does to giving urgent work: that leads on to here."""
    _own(actor).filter(visit=visit, led_to=since).update(version=visit.version, led_to=visit.version)

"""Putting visits back for undo and redo: where they stood, what their fields were, and whether anybody was told."""

from collections.abc import Sequence
from datetime import datetime, timedelta
from typing import Any

from apps.company.queries import settings
from apps.orders import commands as orders
from apps.orders import queries as order_queries
from apps.orders.commands import TOLD
from apps.orders.events import ChangeTakenBack
from apps.orders.inputs import Placement
from apps.orders.lines import line_of
from apps.orders.models import Visit
from apps.scheduling import judging
from apps.scheduling.locks import lock_places, lock_visits
from core.orders import Step, VisitState
from foundation import audit, events, undo
from foundation.actors import Actor
from foundation.errors import Conflict
from foundation.models import UndoEntry
from foundation.moments import to_datetime, to_moment

_DATES = ("promise_start", "promise_end", "earliest", "due")
SUBJECT = "visit"


def keep(actor: Actor, now: datetime, visit: Visit, sentence: str, before: dict[str, Any]) -> None:
    """Keep what a change of a visit did, so that it can be undone.

    Parameters
    ----------
    before
        `placement_of` it; or only what was changed: {"fields": ...}, {"standby": ...}.
    """
    after: dict[str, Any]
    if "fields" in before:
        after = {"fields": stored_fields({name: getattr(visit, name) for name in before["fields"]})}
    elif "standby" in before:
        after = {"standby": visit.standby}
    elif "cancelled" in before:
        after = {"cancelled": before["cancelled"]}
    else:
        after = placement_of(visit)
    undo.record(
        actor=actor, now=now, subject=SUBJECT, key=visit.pk, version=visit.version, sentence=sentence, before=before,
        after=after,
    )  # fmt: skip


def told_with_it(actor: Actor, visit: Visit, *, since: int) -> None:
    """Telling belongs to the change before it, as for urgent work that is given: that leads on to here."""
    undo.lead_on(actor=actor, subject=SUBJECT, key=visit.pk, since=since, version=visit.version)


def placement_of(visit: Visit) -> dict[str, Any]:
    return {
        "technician_id": visit.technician_id, "start": to_moment(visit.start), "mates": visit.mates,
        "crew": visit.crew, "state": visit.state,
    }  # fmt: skip


def stored_fields(values: dict[str, Any]) -> dict[str, Any]:
    """Fields of a visit as JSON."""
    return {name: to_moment(value) if name in _DATES else value for name, value in values.items()}


def lock(entries: Sequence[UndoEntry], back: bool) -> None:
    """The visits, and the days that they go back to, as for whoever places something there at the same moment."""
    lock_visits(entry.key for entry in entries)
    wanted = [entry.before if back else entry.after for entry in entries]
    lock_places(
        (person, row["start"])
        for row in wanted
        if row.get("technician_id") is not None
        for person in (row["technician_id"], *(row.get("mates") or ()))
    )


def put_back(*, actor: Actor, now: datetime, entry: UndoEntry, back: bool) -> int:
    """See `foundation.undo.PutBackByVersion`.

    Raises
    ------
    Conflict
        When the visit went on since: was sent, moved by somebody, accepted.
    """
    visit = order_queries.bare_visit(entry.key)
    if visit.version != entry.version:
        newest = audit.since("visit", visit.pk, entry.version)
        who = f": {newest[0].actor_name} {newest[0].sentence}" if newest else ""
        verb = "undone" if back else "done again"
        raise Conflict(f"Not {verb}, {visit.order.number} has gone on since{who}.", code="gone_on")
    restored = _restore(actor, now, visit, entry.before if back else entry.after, since=entry.at, back=back)
    if back:
        restored = _as_told(actor, now, restored, entry)
        events.publish(ChangeTakenBack(visit=restored, seen=entry.seen, led_to=entry.led_to, at=now))
    return restored.version


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


def _as_told(actor: Actor, now: datetime, visit: Visit, entry: UndoEntry) -> Visit:
    """Back where it was when it was sent it is sent, and nobody is told anew; accepted as well, unless the technician
    may have heard meanwhile that it is not so."""
    was = entry.before.get("state")
    if was is None or VisitState(was) not in TOLD or VisitState(visit.state) is not VisitState.PLACED:
        return visit
    visit = orders.take_step(
        actor=actor, now=now, visit_id=visit.pk, version=visit.version, step=Step.SEND, tells="nobody",
        sentence="left it sent, as it was before",
    )  # fmt: skip
    unheard = now - entry.at < timedelta(seconds=settings().message_wait_seconds)
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

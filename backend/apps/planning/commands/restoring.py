"""Undoing and redoing what was done on the board to other records than visits: they know how they are put back."""

from contextvars import ContextVar
from datetime import datetime

from apps.people import commands as people
from apps.planning.commands import reminders
from apps.planning.models import Change
from apps.stock import commands as stock
from core.roles import Action, Role, may
from foundation.actors import Actor, screen_of
from foundation.undo import PutBack, Undoable

_PUT_BACK: dict[str, PutBack] = {
    "absence": people.put_absence_back,
    "crew": people.put_crew_back,
    "reminder": reminders.put_reminder_back,
    "van": stock.put_count_back,
}
# While something is put back, the commands that do it tell of what they did as ever: that is nothing new to undo.
_putting_back: ContextVar[bool] = ContextVar("putting_back", default=False)


def keep_undoable(done: Undoable) -> None:
    """Keep what was done among the changes of who did it."""
    if _putting_back.get() or not may(Role(done.actor.role), Action.PLAN):
        return
    screen = screen_of(done.actor)
    Change.objects.filter(actor_id=done.actor.id, screen=screen, redoable=True).update(redoable=False)
    Change.objects.create(
        at=done.now, actor_id=done.actor.id, screen=screen, subject=done.subject, key=done.key, sentence=done.sentence,
        before=dict(done.before), after=dict(done.after),
    )  # fmt: skip


def put_back(actor: Actor, now: datetime, change: Change, *, back: bool) -> None:
    """The record as it was before the change, or (`back` false) as it was after it.

    Raises
    ------
    Conflict
        When it has gone on since.
    """
    wanted, expected = (change.before, change.after) if back else (change.after, change.before)
    mark = _putting_back.set(True)
    try:
        key = _PUT_BACK[change.subject](actor=actor, now=now, key=change.key, wanted=wanted, expected=expected)
    finally:
        _putting_back.reset(mark)
    if key != change.key:
        Change.objects.filter(subject=change.subject, key=change.key).update(key=key)

"""Undo and redo: what somebody does leaves what was before it and what came after it.

One's own changes only, the last one first. What one intention did - an accepted proposal, many visits at once - goes
back, and forth again, together: wholly or not at all. Each kind of record (`subject`) says how it is put back.
"""

from collections.abc import Callable, Iterator, Mapping, Sequence
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass
from datetime import datetime
from typing import Any, Protocol

from django.db import transaction
from django.db.models import QuerySet

from core.roles import Action
from foundation.actors import Actor, may, require, screen_of
from foundation.errors import Conflict, NotFound
from foundation.models import UndoEntry

# Values of a record as JSON; empty: it is not there.
Values = Mapping[str, Any]
# So many changes back.
DEPTH = 50


class PutBack(Protocol):
    """Makes a record what it was (`wanted`), if it still is what the change made of it (`expected`); returns its key.

    A record that had been removed is made anew, under another key.
    """

    def __call__(self, *, actor: Actor, now: datetime, key: int, wanted: Values, expected: Values) -> int: ...


class PutBackByVersion(Protocol):
    """Puts back a record that has versions, if it still is at the entry's; returns the version it then has."""

    def __call__(self, *, actor: Actor, now: datetime, entry: UndoEntry, back: bool) -> int: ...


@dataclass(frozen=True, kw_only=True)
class Undone:
    """What was put back: the sentence that says it, and the keys of its records by subject, in their order."""

    sentence: str
    keys: Mapping[str, Sequence[int]]


@dataclass(kw_only=True)
class _Intention:
    id: int | None = None


@dataclass(frozen=True, kw_only=True)
class _Subject:
    by_values: PutBack | None = None
    by_version: PutBackByVersion | None = None
    lock: Callable[[Sequence[UndoEntry], bool], None] | None = None


_subjects: dict[str, _Subject] = {}
_intention: ContextVar[_Intention | None] = ContextVar("intention", default=None)
# While something is put back, the commands that do it record what they do as ever: that is nothing new to undo.
_putting_back: ContextVar[bool] = ContextVar("putting_back", default=False)


def register(
    subject: str, *, by_values: PutBack | None = None, by_version: PutBackByVersion | None = None,
    lock: Callable[[Sequence[UndoEntry], bool], None] | None = None,
) -> None:  # fmt: skip
    """Say how records of a kind are put back, and what has to be locked before; called when the app is ready."""
    _subjects[subject] = _Subject(by_values=by_values, by_version=by_version, lock=lock)


@contextmanager
def one_intention() -> Iterator[None]:
    """What is recorded inside is undone in one step; inside another one it belongs to that."""
    if _intention.get() is not None:
        yield
        return
    mark = _intention.set(_Intention())
    try:
        yield
    finally:
        _intention.reset(mark)


def record(
    *, actor: Actor, now: datetime, subject: str, key: int, sentence: str, before: Values, after: Values,
    version: int = 0,
) -> None:  # fmt: skip
    """Keep that a record went from `before` to `after`, inside the transaction that did it.

    Parameters
    ----------
    version
        Of a record that has versions: the one it has now, after one step.
    """
    if _putting_back.get() or not may(actor, Action.PLAN):
        return
    _own(actor).filter(redoable=True).update(redoable=False)
    entry = UndoEntry.objects.create(
        at=now, actor_id=actor.id, screen=screen_of(actor), subject=subject, key=key, version=version, led_to=version,
        seen=max(0, version - 1), sentence=sentence, before=dict(before), after=dict(after),
    )  # fmt: skip
    together = _intention.get()
    if together is not None:
        together.id = together.id or entry.pk
    entry.intention = entry.pk if together is None else together.id
    entry.save(update_fields=["intention"])


def lead_on(*, actor: Actor, subject: str, key: int, since: int, version: int) -> None:
    """A step belongs to the change before it, as telling does to giving: that leads on from `since` to `version`."""
    _own(actor).filter(subject=subject, key=key, led_to=since).update(version=version, led_to=version)


def undoable(actor: Actor, *, limit: int = DEPTH) -> list[UndoEntry]:
    """What somebody did last at this screen and can still undo, newest first."""
    return list(_own(actor).filter(undone=False).order_by("-id")[:limit])


def redoable(actor: Actor, *, limit: int = DEPTH) -> list[UndoEntry]:
    """What somebody undid at this screen and can do again, the next one first."""
    return list(_own(actor).filter(redoable=True).order_by("id")[:limit])


def undo(*, actor: Actor, now: datetime, entry_id: int | None = None) -> Undone:
    """Take back one's own last change (or a given one), with all that its intention did.

    Raises
    ------
    NotFound
        When there is nothing to undo.
    Conflict
        When a record went on since.
    """
    require(actor, Action.PLAN)
    rows = _own(actor).filter(undone=False)
    entry = (rows.filter(pk=entry_id) if entry_id else rows).order_by("-id").first()
    if entry is None:
        raise NotFound("There is nothing to undo.", code="nothing_to_undo")
    together = list(rows.filter(intention=entry.intention).order_by("-id"))
    # Marked before the attempt, and kept if it fails: it must not block the undoing of what came before it.
    if _marked(together, undone=True) < len(together):
        raise NotFound("That was undone already.", code="nothing_to_undo")
    with transaction.atomic():
        done = _go_through(actor, now, together, back=True)
        _entries(together).update(redoable=True)
    return done


def redo(*, actor: Actor, now: datetime) -> Undone:
    """Do again what was undone last, as long as nothing else was done since.

    Raises
    ------
    NotFound, Conflict
        As for `undo`.
    """
    require(actor, Action.PLAN)
    rows = _own(actor).filter(redoable=True)
    entry = rows.order_by("id").first()
    if entry is None:
        raise NotFound("There is nothing to do again.", code="nothing_to_redo")
    together = list(rows.filter(intention=entry.intention).order_by("id"))
    if _marked(together, redoable=False) < len(together):
        raise NotFound("That was done again already.", code="nothing_to_redo")
    with transaction.atomic():
        done = _go_through(actor, now, together, back=False)
        _entries(together).update(undone=False)
    return done


def check_unchanged(values: Values, expected: Values) -> None:
    """Nobody went on from there since.

    Raises
    ------
    Conflict
    """
    if dict(values) != dict(expected):
        raise Conflict("It has gone on since, so it stays as it is now.", code="gone_on")


def _own(actor: Actor) -> QuerySet[UndoEntry]:
    """What this person did at this screen."""
    return UndoEntry.objects.filter(actor_id=actor.id, screen=screen_of(actor))


def _entries(together: Sequence[UndoEntry]) -> QuerySet[UndoEntry]:
    return UndoEntry.objects.filter(pk__in=[row.pk for row in together])


def _marked(together: Sequence[UndoEntry], **mark: bool) -> int:
    """How many of them were not marked yet, and are now."""
    (name, value), *_ = mark.items()
    return _entries(together).filter(**{name: not value}).update(**mark)


def _go_through(actor: Actor, now: datetime, together: Sequence[UndoEntry], *, back: bool) -> Undone:
    """A record that one intention changed twice is, after the first of them, as the next one knows it."""
    for name, subject in _subjects.items():
        own = [entry for entry in together if entry.subject == name]
        if subject.lock is not None and own:
            subject.lock(own, back)
    keys: dict[str, list[int]] = {}
    versions: dict[tuple[str, int], int] = {}
    mark = _putting_back.set(True)
    try:
        for entry in together:
            known = entry.subject, entry.key
            entry.version = versions.get(known, entry.version)
            versions[known] = _one(actor, now, entry, back=back)
            keys.setdefault(entry.subject, []).append(entry.key)
    finally:
        _putting_back.reset(mark)
    sentence = together[0].sentence if len(together) == 1 else f"{len(together)} changes made in one step"
    return Undone(sentence=sentence, keys=keys)


def _one(actor: Actor, now: datetime, entry: UndoEntry, *, back: bool) -> int:
    """Put one record back; the version it then has."""
    subject = _subjects[entry.subject]
    if subject.by_version is not None:
        version = subject.by_version(actor=actor, now=now, entry=entry, back=back)
        _lead_to(entry, version, back=back)
        return version
    assert subject.by_values is not None
    wanted, expected = (entry.before, entry.after) if back else (entry.after, entry.before)
    key = subject.by_values(actor=actor, now=now, key=entry.key, wanted=wanted, expected=expected)
    if key != entry.key:
        UndoEntry.objects.filter(subject=entry.subject, key=entry.key).update(key=key)
    return 0


def _lead_to(entry: UndoEntry, version: int, *, back: bool) -> None:
    """The entry, and its neighbour on the way, now lead to the record as it is."""
    UndoEntry.objects.filter(pk=entry.pk).update(version=version)
    others = UndoEntry.objects.filter(subject=entry.subject, key=entry.key)
    if back:
        others.filter(undone=False, led_to=entry.seen).update(version=version)
    else:
        others.filter(redoable=True, seen=entry.led_to).update(version=version)

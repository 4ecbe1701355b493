"""What happens to rows that point at a record when that record is merged into another.

Whoever points at such a record says so in the `ready` of its app: its rows move along (always, or where the kept record
has none of its own), or they stay. Nothing is found
by looking: a document that names a customer must not change because somebody tidied up.
"""

from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from django.db import models


@dataclass(frozen=True)
class Pointer:
    """A foreign key to a record that can be merged."""

    model: type[models.Model]
    field: str

    def __str__(self) -> str:
        return f"{self.model._meta.label}.{self.field}"


_moving: defaultdict[type[models.Model], list[Pointer]] = defaultdict(list)
_lacking: set[Pointer] = set()
_staying: dict[Pointer, str] = {}


def move_along(target: type[models.Model], model: type[models.Model], *fields: str) -> None:
    """Rows of `model` that point at a `target` through these fields move to the one that is kept."""
    for name in fields:
        pointer = Pointer(model, name)
        if pointer not in _moving[target]:
            _moving[target].append(pointer)


def move_where_lacking(target: type[models.Model], model: type[models.Model], field: str) -> None:
    """Rows of `model` move along where the record that is kept has none; where it has some, they stay."""
    move_along(target, model, field)
    _lacking.add(Pointer(model, field))


def stay(model: type[models.Model], *fields: str, because: str) -> None:
    """Rows of `model` go on pointing at the record that was merged away."""
    for name in fields:
        _staying[Pointer(model, name)] = because


def move(target: type[models.Model], *, from_id: int, to_id: int) -> dict[str, list[int]]:
    """Move everything along; the ids of the rows that moved, by pointer, for `move_back`."""
    found = {}
    for pointer in _moving[target]:
        if pointer in _lacking and _rows(pointer, to_id).exists():
            continue
        rows = _rows(pointer, from_id)
        ids = list(rows.values_list("pk", flat=True))
        if ids:
            rows.update(**{f"{pointer.field}_id": to_id})
            # A row that is known by whom it belongs to has got another key by that.
            found[str(pointer)] = [to_id] if pointer.model._meta.pk.name == pointer.field else ids
    return found


def move_back(target: type[models.Model], moved: dict[str, list[int]], *, from_id: int, to_id: int) -> None:
    """Take back what `move` did, as far as those rows still point at the one that was kept."""
    for pointer in _moving[target]:
        if ids := moved.get(str(pointer)):
            _rows(pointer, from_id).filter(pk__in=ids).update(**{f"{pointer.field}_id": to_id})


def pointing(target: type[models.Model], key: int) -> list[tuple[str, int]]:
    """Whose rows would move, in the plural, and how many; nothing of those of whom none would."""
    counted = ((pointer.model._meta.verbose_name_plural, _rows(pointer, key).count()) for pointer in _moving[target])
    return [(str(what), count) for what, count in counted if count]


def undeclared(target: type[models.Model]) -> Iterator[Pointer]:
    """Foreign keys to a record of which nobody has said what becomes of them; a test keeps this empty."""
    for relation in target._meta.get_fields(include_hidden=True):
        if isinstance(relation, models.ManyToOneRel) and not isinstance(relation.related_model, str):
            pointer = Pointer(relation.related_model, relation.field.name)
            if pointer not in _moving[target] and pointer not in _staying:
                yield pointer


def _rows(pointer: Pointer, key: int) -> "models.QuerySet[Any]":
    return pointer.model._default_manager.filter(**{f"{pointer.field}_id": key})

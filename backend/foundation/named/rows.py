"""The rows of what a company names, found by key and by name."""

from collections.abc import Collection
from typing import ClassVar, TypeVar

from django.db import IntegrityError, models, transaction
from django.db.models.functions import Lower
from django.utils.text import slugify

from foundation.errors import Conflict, Rejected
from foundation.models import Versioned

LONGEST_KEY = 40


class Named(Versioned):
    """A row with a lasting key and a name that nothing else of its kind has, in any spelling.

    One that is no longer wanted is retired: it keeps its name where it is held and is not offered. One that was merged
    into another stays, so that its name and its key lead to the one that was kept.
    """

    code = models.CharField(max_length=LONGEST_KEY, unique=True)
    name = models.CharField(max_length=80)
    retired = models.BooleanField(default=False)
    merged_into = models.CharField(max_length=LONGEST_KEY, blank=True)

    class Meta:
        abstract = True
        constraints: ClassVar = [models.UniqueConstraint(Lower("name"), name="%(app_label)s_one_%(class)s_of_a_name")]

    def __str__(self) -> str:
        return self.name


Kind = TypeVar("Kind", bound=Named)


def key_for(name: str, taken: Collection[str]) -> str:
    """A key made from a name, unlike all those taken: "Rope access" is `rope-access`, the next one `rope-access-2`."""
    stem = slugify(name)[: LONGEST_KEY - 5] or "no-latin-letters"
    key, number = stem, 1
    while key in taken:
        number += 1
        key = f"{stem}-{number}"
    return key


def called(model: type[Kind], name: str) -> tuple[Kind, bool]:
    """The row of that name in any spelling, and whether it had to be made. To be called in a transaction."""
    rows, name = model._default_manager, " ".join(name.split())
    for _attempt in range(2):
        if (found := rows.filter(name__iexact=name).first()) is not None:
            return (rows.get(code=found.merged_into) if found.merged_into else found), False
        taken = set(rows.values_list("code", flat=True))
        try:
            with transaction.atomic():
                return rows.create(code=key_for(name, taken), name=name), True
        except IntegrityError:
            continue  # somebody else has just made it, or one with that key
    raise Conflict(f"{name} is being made by somebody else. Try again.")


def names(model: type[Named]) -> dict[str, str]:
    """Name by key, of all there ever were; that of the one that was kept, where two were merged."""
    rows = model._default_manager.values_list("code", "name", "merged_into")
    own = {code: name for code, name, _into in rows}
    return {code: own.get(into, name) for code, name, into in rows}


def keys_by_name(model: type[Named]) -> dict[str, str]:
    """Key by name in small letters, of all there ever were; a name that was merged leads to the one that was kept."""
    rows = model._default_manager.values_list("code", "name", "merged_into")
    return {name.casefold(): into or code for code, name, into in rows}


def resolved(model: type[Named], codes: Collection[str], *, field: str) -> list[str]:
    """The keys as they are held, each once, in order: one that was merged is the one that was kept.

    Raises
    ------
    Rejected
        For a key that was never given.
    """
    if not codes:
        return []
    into = dict(model._default_manager.filter(code__in=codes).values_list("code", "merged_into"))
    if unknown := sorted(set(codes) - into.keys()):
        raise Rejected(f"There is no {model._meta.verbose_name} “{unknown[0]}”.", field=field)
    return list(dict.fromkeys(into[code] or code for code in codes))

"""What every change of a customer's record has in common: version, own fields, what changed in words."""

from collections.abc import Mapping
from typing import Any, TypeVar

from django.db import models

from apps.company.queries import record_fields
from core.forms import check_answers, unanswered
from foundation import audit
from foundation.errors import Conflict, NotFound, Rejected
from foundation.models import Versioned

Row = TypeVar("Row", bound=Versioned)


def lock(model: type[Row], row_id: int, version: int, what: str) -> Row:
    """The row, locked, as it was seen.

    Raises
    ------
    NotFound, Conflict
    """
    row = model._default_manager.select_for_update().filter(pk=row_id).first()
    if row is None:
        raise NotFound(f"There is no such {what}.", code=f"no_{what}")
    if row.version != version:
        newest = audit.since(what, row_id, version)
        who = f"{newest[0].actor_name} {newest[0].sentence}" if newest else f"The {what} was changed"
        raise Conflict(f"{who} meanwhile. It is shown as it is now.", current_version=row.version)
    return row


def checked_extra(record: str, answers: Mapping[str, Any], *, required: bool = True) -> dict[str, Any]:
    """Answers to the company's own fields of a record.

    Raises
    ------
    Rejected
        When one cannot be, or one that is needed is missing; the field is "extra.<key>".
    """
    questions = record_fields(record)
    clean, problems = check_answers(questions, {k: v for k, v in answers.items() if k in {q.key for q in questions}})
    for key, problem in problems.items():
        label = next((q.label for q in questions if q.key == key), key)
        raise Rejected(f"{label}: {problem}.", field=f"extra.{key}")
    missing = unanswered(questions, clean, to="create") if required else []
    if missing:
        raise Rejected(f"{missing[0].label} is needed.", code="missing", field=f"extra.{missing[0].key}")
    return clean


def apply(row: models.Model, values: Mapping[str, Any]) -> dict[str, list[Any]]:
    """Set the values that differ; what each was and is, by field, for the audit trail."""
    changed = {}
    for name, value in values.items():
        before = getattr(row, name)
        if before != value:
            setattr(row, name, value)
            changed[name] = [_plain(before), _plain(value)]
    return changed


def in_words(changed: Mapping[str, Any], words: Mapping[str, str]) -> str:
    return ", ".join(dict.fromkeys(words.get(name, name.replace("_", " ")) for name in changed))


def _plain(value: Any) -> Any:
    if isinstance(value, models.Model):
        return str(getattr(value, "name", value.pk))
    return value if isinstance(value, str | int | float | bool | list | dict | type(None)) else str(value)

"""The company itself: founding it, its settings, its own fields."""

from collections.abc import Mapping, Sequence
from dataclasses import replace
from datetime import datetime
from typing import Any

from django.db import transaction

from apps.company import answers
from apps.company.models import Area, Company, RecordFields, Tag
from apps.company.queries import forget_zone
from core.company import explained, settings_from
from core.forms import Question, questions_from, stored
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected
from foundation.named import called

# What a company begins with; it makes, renames and retires its own.
FIRST_TAGS = ("key account", "warranty", "complaint", "out of hours")


@transaction.atomic
def found_company(*, name: str, time_zone: str, areas: Mapping[str, Any], currency: str = "EUR") -> Company:
    """Make the one company of this installation.

    Parameters
    ----------
    areas
        GeoJSON FeatureCollection of polygons with a `name`: where the technicians work.
    """
    if Company.objects.exists():
        raise Rejected("There is a company already.", code="company_exists")
    company = Company.objects.create(name=name, time_zone=time_zone, currency=currency)
    Area.objects.bulk_create(
        Area(name=feature["properties"]["name"], polygon=feature["geometry"]) for feature in areas["features"]
    )
    for tag in FIRST_TAGS:
        called(Tag, tag)
    return company


@transaction.atomic
def change_settings(*, actor: Actor, now: datetime, version: int, changes: Mapping[str, Any]) -> Company:
    """Change some of the company's settings.

    Raises
    ------
    Rejected
        When a value cannot be; nothing changes.
    Conflict
        When somebody else changed the settings since they were read.
    """
    require(actor, Action.CHANGE_SETTINGS)
    company = Company.objects.select_for_update().order_by("id").first()
    if company is None:
        raise NotFound("There is no company yet.", code="no_company")
    if company.version != version:
        newest = audit.since("company", company.pk, version)
        who = f"{newest[0].actor_name} has" if newest else "Somebody has"
        raise Conflict(f"{who} changed the settings meanwhile. Look at them again.", current_version=company.version)
    unknown = sorted(set(changes) - set(explained()))
    if unknown:
        raise Rejected(f"There is no setting called {unknown[0]}.", field=unknown[0])
    before = settings_from(company.settings)
    merged = {**company.settings, **changes}
    try:
        after = settings_from(merged)
    except (ValueError, TypeError) as error:
        raise Rejected(f"{error}.", field=getattr(error, "setting", "")) from error
    changed = [name for name in changes if getattr(before, name) != getattr(after, name)]
    company.settings, company.version = merged, company.version + 1
    company.save(update_fields=["settings", "version"])
    transaction.on_commit(forget_zone)
    names = ", ".join(explained()[name].name for name in changed)
    audit.record(
        actor=actor, now=now, action="settings", entity="company", entity_id=company.pk, version=company.version,
        sentence=f"changed {names}" if names else "kept the settings",
        values={name: [_plain(getattr(before, name)), _plain(getattr(after, name))] for name in changed},
    )  # fmt: skip
    live.announce("company", ids=[company.pk])
    return company


def _plain(value: Any) -> Any:
    return list(value) if isinstance(value, tuple) else value


@transaction.atomic
def merge_record_field(
    *, actor: Actor, now: datetime, record: str, version: int, key: str, into: str
) -> tuple[Question, ...]:
    """Make two own fields one: answers to the first are answers to the second from now on, and the first is gone.

    Raises
    ------
    NotFound
        When there is no such field.
    Rejected
        When they are of different kinds, or records answer both and not the same.
    Conflict
        When the fields were changed since they were seen.
    """
    require(actor, Action.CHANGE_SETTINGS)
    row = _locked_fields(record, version)
    known = {question.key: question for question in questions_from(row.questions)}
    if key not in known or into not in known or key == into:
        raise NotFound("There is no such field (any more).", code="no_field")
    gone, kept = known[key], known[into]
    if gone.kind != kept.kind:
        raise Rejected(f"“{gone.label}” and “{kept.label}” are of different kinds.", field="into")
    unlike = [f"{count} {place.what}" for place in answers.held(record) if (count := place.differing(key, into))]
    if unlike:
        raise Rejected(
            f"{', '.join(unlike)} answer both, and not the same: make the answers the same first.", field="into",
            code="answers_differ",
        )  # fmt: skip
    for place in answers.held(record):
        place.move(key, into)
    others = [_asked_by(question, key, into) for question in known.values() if question.key != key]
    return _keep_fields(actor, now, row, others, f"made “{gone.label}” of the {record} one with “{kept.label}”")


def _asked_by(question: Question, key: str, into: str) -> Question:
    """A question that hung on the field that is gone hangs on the one that is kept."""
    if question.shown_if is None or question.shown_if[0] != key or question.key == into:
        return question
    return replace(question, shown_if=(into, question.shown_if[1]))


@transaction.atomic
def change_record_fields(
    *, actor: Actor, now: datetime, record: str, version: int, questions: Sequence[Mapping[str, Any]]
) -> tuple[Question, ...]:
    """Define the company's own fields of one kind of record. Answers to fields that go stay where they are."""
    require(actor, Action.CHANGE_SETTINGS)
    row = _locked_fields(record, version)
    try:
        found = questions_from(questions)
    except (ValueError, TypeError) as error:
        raise Rejected(f"{error}.".capitalize(), field="questions") from error
    said = f"changed the own fields of the {record}: {', '.join(q.label for q in found) or 'none'}"
    return _keep_fields(actor, now, row, found, said)


def _locked_fields(record: str, version: int) -> RecordFields:
    if record not in RecordFields.RECORDS:
        raise NotFound("There are no own fields for that.", code="no_record")
    row, _made = RecordFields.objects.select_for_update().get_or_create(record=record, defaults={"version": 0})
    if row.version != version:
        raise Conflict("Somebody has changed these fields meanwhile. Look at them again.", current_version=row.version)
    return row


def _keep_fields(
    actor: Actor, now: datetime, row: RecordFields, found: Sequence[Question], sentence: str
) -> tuple[Question, ...]:
    try:
        # An answer that brings another up may now stand after it.
        checked = questions_from(stored(found))
    except ValueError as error:
        raise Rejected(f"{error}.".capitalize(), field="into") from error
    row.questions, row.version = stored(checked), row.version + 1
    row.save()
    audit.record(
        actor=actor, now=now, action="fields", entity="fields", entity_id=row.pk, version=row.version,
        sentence=sentence[:300],
    )  # fmt: skip
    live.announce("company")
    return checked

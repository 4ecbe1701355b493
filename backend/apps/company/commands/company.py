"""The company itself: founding it, its settings, its own fields."""

from collections.abc import Mapping, Sequence
from datetime import datetime
from typing import Any

from django.db import transaction

from apps.company.models import Area, Company, RecordFields, Tag
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
def change_record_fields(
    *, actor: Actor, now: datetime, record: str, version: int, questions: Sequence[Mapping[str, Any]]
) -> tuple[Question, ...]:
    """Define the company's own fields of one kind of record. Answers to fields that go stay where they are."""
    require(actor, Action.CHANGE_SETTINGS)
    if record not in RecordFields.RECORDS:
        raise NotFound("There are no own fields for that.", code="no_record")
    row, _made = RecordFields.objects.select_for_update().get_or_create(record=record, defaults={"version": 0})
    if row.version != version:
        raise Conflict("Somebody has changed these fields meanwhile. Look at them again.", current_version=row.version)
    try:
        found = questions_from(questions)
    except (ValueError, TypeError) as error:
        raise Rejected(f"{error}.".capitalize(), field="questions") from error
    row.questions, row.version = stored(found), row.version + 1
    row.save()
    audit.record(
        actor=actor, now=now, action="fields", entity="fields", entity_id=row.pk, version=row.version,
        sentence=f"changed the own fields of the {record}: {', '.join(q.label for q in found) or 'none'}",
    )  # fmt: skip
    live.announce("company")
    return found

"""Setting up the company."""

from collections.abc import Mapping, Sequence
from datetime import date, datetime
from typing import Any

from django.db import transaction

from apps.company.models import Area, Company, Holiday, RecordFields
from core.company import explained, settings_from
from core.forms import Question, questions_from, stored
from core.roads import AreaIndex
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected


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
    return company


@transaction.atomic
def put_areas(*, actor: Actor, now: datetime, collection: Mapping[str, Any]) -> int:
    """Take areas from GeoJSON: new names are added, known ones get the new outline; how many there were.

    Sites find their area anew with `customers.commands.find_areas`.

    Raises
    ------
    Rejected
        When a feature has no name, or is no valid polygon; then nothing changes.
    """
    require(actor, Action.CHANGE_SETTINGS)
    features = collection.get("features")
    if not isinstance(features, list) or not features:
        raise Rejected("This is no GeoJSON FeatureCollection with areas in it.", field="file")
    polygons: dict[str, Any] = {}
    for number, feature in enumerate(features, start=1):
        name = str((feature.get("properties") or {}).get("name") or "").strip()
        if not name:
            raise Rejected(f"Feature {number} has no name.", field="file")
        polygons[name] = feature.get("geometry")
    _checked_polygons(polygons)
    for name, polygon in polygons.items():
        area = Area.objects.filter(name=name).first() or Area(name=name)
        _keep_area(actor, now, area, polygon, "took the area from a file")
    live.announce("company")
    return len(polygons)


def _keep_area(actor: Actor, now: datetime, area: Area, polygon: Mapping[str, Any], sentence: str) -> None:
    """With what it was before, so that the history can tell."""
    before = area.polygon if area.pk else None
    if before == dict(polygon):
        return
    area.polygon = dict(polygon)
    area.save()
    audit.record(
        actor=actor, now=now, action="area", entity="area", entity_id=area.pk, sentence=f"{sentence}: {area.name}",
        polygon=[before, area.polygon],
    )  # fmt: skip


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


@transaction.atomic
def draw_area(*, actor: Actor, now: datetime, name: str, polygon: Mapping[str, Any], was: str | None = None) -> Area:
    """Keep an area drawn on the map: a new one, or another outline (and name) for the one called `was`.

    Raises
    ------
    Rejected
        When the outline is no area, or the name is taken.
    """
    require(actor, Action.CHANGE_SETTINGS)
    name = name.strip()
    if not name:
        raise Rejected("An area needs a name.", field="name")
    _checked_polygons({name: polygon})
    area = Area.objects.filter(name=was).first() if was else Area()
    if area is None:
        raise NotFound("There is no such area (any more).", code="no_area")
    if Area.objects.filter(name=name).exclude(pk=area.pk).exists():
        raise Rejected(f"There is an area called {name} already.", field="name")
    if area.pk and area.name != name:
        audit.record(
            actor=actor, now=now, action="area", entity="area", entity_id=area.pk,
            sentence=f"renamed the area {area.name} to {name}",
        )  # fmt: skip
        Area.objects.filter(pk=area.pk).update(name=name)
    area.name = name
    _keep_area(actor, now, area, polygon, "drew the area")
    live.announce("company")
    return area


@transaction.atomic
def remove_area(*, actor: Actor, now: datetime, name: str) -> None:
    """Take an area off the map; its sites find another one, or none. It can be put back."""
    require(actor, Action.CHANGE_SETTINGS)
    area = Area.objects.filter(name=name).first()
    if area is None:
        raise NotFound("There is no such area (any more).", code="no_area")
    area.removed_at = now
    area.save(update_fields=["removed_at"])
    audit.record(actor=actor, now=now, action="area", entity="area", entity_id=area.pk, sentence=f"removed {name}")
    live.announce("company")


@transaction.atomic
def put_area_back(*, actor: Actor, now: datetime, name: str) -> Area:
    """Put the area of that name that was removed last back on the map, with everybody who worked there.

    Raises
    ------
    NotFound, Rejected
        When none was removed, or there is another one of that name by now.
    """
    require(actor, Action.CHANGE_SETTINGS)
    area = Area.ever.filter(name=name, removed_at__isnull=False).order_by("-removed_at").first()
    if area is None:
        raise NotFound(f"No area called {name} was removed.", code="no_area")
    if Area.objects.filter(name=name).exists():
        raise Rejected(f"There is an area called {name} already.", field="name")
    area.removed_at = None
    area.save(update_fields=["removed_at"])
    audit.record(actor=actor, now=now, action="area", entity="area", entity_id=area.pk, sentence=f"put {name} back")
    live.announce("company")
    return area


@transaction.atomic
def add_holiday(*, actor: Actor, now: datetime, day: date, name: str) -> Holiday:
    """Make a day one on which nobody has a shift. What is placed on it stays, and says that it stands outside."""
    require(actor, Action.CHANGE_SETTINGS)
    name = name.strip()
    if not name:
        raise Rejected("A holiday needs a name.", field="name")
    if taken := Holiday.objects.filter(day=day).first():
        raise Rejected(f"That day is {taken.name} already.", field="day")
    holiday = Holiday.objects.create(day=day, name=name)
    _tell_of_holiday(actor, now, holiday.pk, f"made {day.isoformat()} a holiday: {name}")
    return holiday


@transaction.atomic
def remove_holiday(*, actor: Actor, now: datetime, holiday_id: int) -> None:
    """Make a holiday a day like others again."""
    require(actor, Action.CHANGE_SETTINGS)
    holiday = Holiday.objects.filter(pk=holiday_id).first()
    if holiday is None:
        raise NotFound("There is no such holiday (any more).", code="no_holiday")
    said = f"{holiday.day.isoformat()} ({holiday.name}) is no holiday any more"
    holiday.delete()
    _tell_of_holiday(actor, now, holiday_id, said)


def _tell_of_holiday(actor: Actor, now: datetime, key: int, sentence: str) -> None:
    audit.record(actor=actor, now=now, action="holiday", entity="holiday", entity_id=key, sentence=sentence)
    live.announce("technician")


def _checked_polygons(polygons: Mapping[str, Any]) -> None:
    try:
        AreaIndex(polygons)
    except (ValueError, TypeError, KeyError, AttributeError) as error:
        raise Rejected(f"The areas cannot be used: {error}.", field="file") from error

"""The areas in which technicians work."""

from collections.abc import Mapping
from datetime import datetime
from typing import Any

from django.db import transaction

from apps.company.models import Area
from core.roads import AreaIndex, joined
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected


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
    if area.pk:
        area.version += 1
    area.save()
    _tell_of_area(actor, now, area, f"{sentence}: {area.name}", polygon=[before, area.polygon])


@transaction.atomic
def draw_area(
    *, actor: Actor, now: datetime, name: str, polygon: Mapping[str, Any], area_id: int | None = None, version: int = 0
) -> Area:
    """Keep an area drawn on the map: a new one, or another outline (and name) of one that is known.

    Raises
    ------
    Conflict
        When somebody else changed it since it was seen.
    Rejected
        When the outline is no area, or the name is taken.
    """
    require(actor, Action.CHANGE_SETTINGS)
    name = name.strip()
    if not name:
        raise Rejected("An area needs a name.", field="name")
    _checked_polygons({name: polygon})
    area = Area() if area_id is None else _area(area_id)
    if area.pk and area.version != version:
        newest = audit.since("area", area.pk, version)
        who = f"{newest[0].actor_name} has" if newest else "Somebody has"
        raise Conflict(f"{who} changed this area meanwhile. Look at it again.", current_version=area.version)
    if Area.objects.filter(name=name).exclude(pk=area.pk).exists():
        raise Rejected(f"There is an area called {name} already.", field="name")
    if area.pk and area.name != name:
        said, area.name, area.version = f"renamed the area {area.name} to {name}", name, area.version + 1
        area.save(update_fields=["name", "version"])
        _tell_of_area(actor, now, area, said)
    area.name = name
    _keep_area(actor, now, area, polygon, "drew the area")
    live.announce("company")
    return area


@transaction.atomic
def join_areas(*, actor: Actor, now: datetime, area_id: int, version: int, into: int) -> tuple[Area, Area]:
    """Give an area the outline of both, and take the other off the map; answers the one that goes and the one that is
    kept. Who works there is moved by `customers.commands.merge_area`.

    Raises
    ------
    NotFound, Rejected
        When it is the same, or there is no such other one.
    Conflict
        When the area was changed since it was seen.
    """
    require(actor, Action.CHANGE_SETTINGS)
    if area_id == into:
        raise Rejected("That is the same one: choose another to merge it into.", field="into")
    # Locked in the order of their keys, so that two opposed merges wait for each other instead of for ever.
    rows = {row.pk: row for row in Area.objects.select_for_update().filter(pk__in=(area_id, into)).order_by("pk")}
    gone, kept = rows.get(area_id), rows.get(into)
    if gone is None or kept is None:
        raise NotFound("There is no such area (any more).", code="no_area")
    if gone.version != version:
        raise Conflict(f"{gone.name} was changed meanwhile. Look at it again.", current_version=gone.version)
    _keep_area(actor, now, kept, joined(kept.polygon, gone.polygon), f"merged {gone.name} into it")
    gone.removed_at, gone.version = now, gone.version + 1
    gone.save(update_fields=["removed_at", "version"])
    _tell_of_area(actor, now, gone, f"merged {gone.name} into {kept.name}")
    live.announce("company")
    return gone, kept


@transaction.atomic
def remove_area(*, actor: Actor, now: datetime, area_id: int) -> None:
    """Take an area off the map; its sites find another one, or none. It can be put back."""
    require(actor, Action.CHANGE_SETTINGS)
    area = _area(area_id)
    area.removed_at, area.version = now, area.version + 1
    area.save(update_fields=["removed_at", "version"])
    _tell_of_area(actor, now, area, f"removed {area.name}")
    live.announce("company")


@transaction.atomic
def put_area_back(*, actor: Actor, now: datetime, area_id: int) -> Area:
    """Put an area that was removed back on the map, with everybody who worked there.

    Raises
    ------
    NotFound, Rejected
        When it was not removed, or there is another one of that name by now.
    """
    require(actor, Action.CHANGE_SETTINGS)
    area = Area.ever.select_for_update().filter(pk=area_id, removed_at__isnull=False).first()
    if area is None:
        raise NotFound("This area was not removed.", code="no_area")
    if Area.objects.filter(name=area.name).exists():
        raise Rejected(f"There is an area called {area.name} already.", field="name")
    area.removed_at, area.version = None, area.version + 1
    area.save(update_fields=["removed_at", "version"])
    _tell_of_area(actor, now, area, f"put {area.name} back")
    live.announce("company")
    return area


def _area(area_id: int) -> Area:
    found = Area.objects.select_for_update().filter(pk=area_id).first()
    if found is None:
        raise NotFound("There is no such area (any more).", code="no_area")
    return found


def _tell_of_area(actor: Actor, now: datetime, area: Area, sentence: str, **changes: Any) -> None:
    audit.record(
        actor=actor, now=now, action="area", entity="area", entity_id=area.pk, version=area.version, sentence=sentence,
        **changes,
    )  # fmt: skip


def _checked_polygons(polygons: Mapping[str, Any]) -> None:
    try:
        AreaIndex(polygons)
    except (ValueError, TypeError, KeyError, AttributeError) as error:
        raise Rejected(f"The areas cannot be used: {error}.", field="file") from error

"""Setting up the company."""

from collections.abc import Mapping
from typing import Any

from django.db import transaction

from apps.company.models import Area, Company
from core.roads import AreaIndex
from foundation.errors import Rejected


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
def put_areas(collection: Mapping[str, Any]) -> int:
    """Take areas from GeoJSON: new names are added, known ones get the new outline; how many there were.

    Sites find their area anew with `customers.commands.find_areas`.

    Raises
    ------
    Rejected
        When a feature has no name, or is no valid polygon; then nothing changes.
    """
    features = collection.get("features")
    if not isinstance(features, list) or not features:
        raise Rejected("This is no GeoJSON FeatureCollection with areas in it.", field="file")
    polygons: dict[str, Any] = {}
    for number, feature in enumerate(features, start=1):
        name = str((feature.get("properties") or {}).get("name") or "").strip()
        if not name:
            raise Rejected(f"Feature {number} has no name.", field="file")
        polygons[name] = feature.get("geometry")
    try:
        AreaIndex(polygons)
    except (ValueError, TypeError, KeyError, AttributeError) as error:
        raise Rejected(f"The areas cannot be used: {error}.", field="file") from error
    for name, polygon in polygons.items():
        Area.objects.update_or_create(name=name, defaults={"polygon": polygon})
    return len(polygons)

"""Setting up the company."""

from collections.abc import Mapping
from typing import Any

from django.db import transaction

from apps.company.models import Area, Company
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

"""Setting up the company."""

from apps.company.models import Area, Company
from apps.roads.region import read
from django.db import transaction
from foundation.errors import Rejected


@transaction.atomic
def found_company(*, name: str, time_zone: str, currency: str = "EUR") -> Company:
    """Make the one company of this installation, with the areas of the region's map."""
    if Company.objects.exists():
        raise Rejected("There is a company already.", code="company_exists")
    company = Company.objects.create(name=name, time_zone=time_zone, currency=currency)
    Area.objects.bulk_create(
        Area(name=feature["properties"]["name"], polygon=feature["geometry"]) for feature in read("areas")["features"]
    )
    return company

"""Sites whose point cannot be right: no road of the region leads there."""

from dataclasses import dataclass

from apps.customers.models import Site
from apps.roads.queries import find_addresses, metres_off_the_roads
from core.basics import Place

# Nobody parks that far from where they work.
FAR_METRES = 1000
SHOWN = 200
# So alike an address is the one that is meant.
SURE = 95.0


@dataclass(frozen=True)
class Lost:
    """A site off the map; `suggestion` is empty where its address is not found."""

    id: int
    customer_id: int
    customer: str
    name: str
    address: str
    kilometres: float
    suggestion: str


@dataclass(frozen=True)
class OffTheMap:
    """How many, and the first of them by customer."""

    count: int
    sites: list[Lost]


def off_the_map() -> OffTheMap:
    """All sites of customers that are not merged into others."""
    columns = ("id", "customer_id", "customer__name", "name", "address", "lon", "lat")
    rows = list(
        Site.objects.filter(customer__merged_into__isnull=True).order_by("customer__name", "id").values_list(*columns)
    )
    off = metres_off_the_roads([Place(row[5], row[6]) for row in rows])
    far = [(row, metres) for row, metres in zip(rows, off, strict=True) if metres > FAR_METRES]
    return OffTheMap(count=len(far), sites=[_lost(row, metres) for row, metres in far[:SHOWN]])


def _lost(row: tuple[int, int, str, str, str, float, float], metres: float) -> Lost:
    found = find_addresses(row[4], limit=1)
    suggestion = found[0].address.text if found and found[0].likeness >= SURE else ""
    return Lost(*row[:5], kilometres=round(metres / 1000, 1), suggestion=suggestion)

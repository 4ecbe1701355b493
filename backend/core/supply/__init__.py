"""How what is missing comes: the ways, and which is best."""

from core.supply.deliveries import delivery_day
from core.supply.ways import Rates, Way, WayKind, ranked

__all__ = ["Rates", "Way", "WayKind", "delivery_day", "ranked"]

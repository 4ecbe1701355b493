"""How what is missing comes: the ways, and which is best."""

from core.supply.ways import Rates, Way, WayKind, ranked

__all__ = ["Rates", "Way", "WayKind", "ranked"]

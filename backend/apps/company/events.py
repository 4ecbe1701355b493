"""What happens to the company that others keep something for."""

from dataclasses import dataclass
from datetime import date


@dataclass(frozen=True, kw_only=True)
class DepotMoves:
    """A depot is about to be elsewhere; days before `until` stay as they were."""

    depot_id: int
    until: date

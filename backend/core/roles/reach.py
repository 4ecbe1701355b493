"""How far somebody reaches: which work is theirs to change. Seeing is not narrowed."""

from collections.abc import Iterable
from dataclasses import dataclass


@dataclass(frozen=True, kw_only=True)
class Reach:
    """Whose work somebody may change.

    Attributes
    ----------
    areas : keys of the areas in which they may change work; none: in all, and outside of all.
    depots : keys of the depots whose technicians they may plan; none: of all.
    technician : only work that goes to this technician; None: to anybody. 0: somebody who works from the phone and is
        nobody's account: they reach nothing.
    """

    areas: frozenset[int] = frozenset()
    depots: frozenset[int] = frozenset()
    technician: int | None = None

    @property
    def is_narrow(self) -> bool:
        """Whether the office reaches only a part of the company."""
        return bool(self.areas or self.depots)

    def area(self, area: int | None) -> bool:
        """Whether work at a place in this area is in reach. A place outside of all areas is in reach of those only who
        reach everywhere."""
        return not self.areas or area in self.areas

    def depot(self, depot: int | None) -> bool:
        """Whether technicians of this depot are in reach."""
        return not self.depots or depot in self.depots

    def goes_to(self, technicians: Iterable[int | None]) -> bool:
        """Whether work these technicians go to is in reach of who reaches only their own."""
        return self.technician is None or self.technician in technicians


EVERYWHERE = Reach()

"""Files of depots, skills, vehicles, people, shifts, prices and stock, brought in by the commands that hands use.

A preview is the same work, taken back at its end: what it says of a row is what bringing the file in does.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from datetime import datetime

from django.db import transaction

from apps.set_up.people import write_people
from apps.set_up.places import write_depots, write_skills, write_vehicles
from apps.set_up.prices import write_discounts, write_items, write_list_prices, write_tax_codes
from apps.set_up.rates import write_rates, write_surcharges
from apps.set_up.rows import Becomes, Hand, SetUpRow
from apps.set_up.shifts import write_shifts
from apps.set_up.stock import write_levels, write_parts, write_suppliers
from core.basics.tables import BadFile
from core.roles import Action
from core.set_up import SetUpKind, read_set_up
from foundation import audit
from foundation.actors import Actor, require
from foundation.errors import Rejected

Writer = Callable[[Hand, Sequence[SetUpRow]], None]
_WRITERS: dict[SetUpKind, Writer] = {
    SetUpKind.DEPOTS: write_depots,
    SetUpKind.SKILLS: write_skills,
    SetUpKind.VEHICLES: write_vehicles,
    SetUpKind.PEOPLE: write_people,
    SetUpKind.SHIFTS: write_shifts,
    SetUpKind.TAX_CODES: write_tax_codes,
    SetUpKind.ITEMS: write_items,
    SetUpKind.LIST_PRICES: write_list_prices,
    SetUpKind.DISCOUNTS: write_discounts,
    SetUpKind.RATES: write_rates,
    SetUpKind.SURCHARGES: write_surcharges,
    SetUpKind.SUPPLIERS: write_suppliers,
    SetUpKind.PARTS: write_parts,
    SetUpKind.LEVELS: write_levels,
}


@dataclass(frozen=True, kw_only=True)
class Brought:
    """What came of each row, and the headings that mean no column."""

    rows: Sequence[SetUpRow]
    left_out: Sequence[str] = field(default_factory=list)

    def count(self, becomes: Becomes) -> int:
        return sum(row.becomes == becomes for row in self.rows)


def bring_in(*, actor: Actor, now: datetime, kind: SetUpKind, name: str, text: str, sure: bool) -> Brought:
    """Bring a file in; what is refused is left out. A file that comes twice changes nothing the second time.

    Parameters
    ----------
    sure
        Whether it is meant; otherwise all is taken back, and only what would come of each row is told.

    Raises
    ------
    Rejected
        When the file as a whole cannot be read.
    """
    require(actor, Action.CHANGE_SETTINGS)
    try:
        read, left_out = read_set_up(kind, text)
    except BadFile as error:
        raise Rejected(str(error), field="file") from error
    rows = [SetUpRow(line=row.line, cells=row.cells, problems=list(row.problems)) for row in read]
    with transaction.atomic():
        _WRITERS[kind](Hand(actor=actor, now=now), rows)
        found = Brought(rows=rows, left_out=left_out)
        if sure:
            _note(actor, now, kind, name, found)
        else:
            transaction.set_rollback(True)
    return found


def _note(actor: Actor, now: datetime, kind: SetUpKind, name: str, found: Brought) -> None:
    counts = {becomes.value: found.count(becomes) for becomes in Becomes}
    audit.record(
        actor=actor, now=now, action="import", entity="set-up file", entity_id=0, counts=counts,
        sentence=f"brought in {kind.value} from {name or 'a file'}"[:300],
    )  # fmt: skip

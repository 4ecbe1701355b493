"""What a visit took, as it was recorded: parts, times, charges, kilometres."""

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass

from apps.orders.models import Assignment, Visit, VisitEvent
from apps.reports.models import Charge, Mileage, NothingMore, RemovedPart, SaidTime, UsedPart
from apps.stock.models import Part
from apps.stock.queries import OWNERS
from core.orders import Step
from core.reports import Presence
from foundation.moments import to_moment


@dataclass(frozen=True, kw_only=True)
class Goer:
    """One of the crew, and when they were there."""

    technician_id: int
    name: str
    presence: Presence


@dataclass(frozen=True, kw_only=True)
class Entries:
    """`planned`: parts that the visit was to take, with how many."""

    planned: list[tuple[Part, int]]
    used: list[UsedPart]
    removed: list[RemovedPart]
    goers: list[Goer]
    times: list[SaidTime]
    charges: list[Charge]
    mileages: list[Mileage]
    nothing_more: list[str]

    @property
    def parts_open(self) -> tuple[str, ...]:
        """Planned parts of which nobody has said whether they were used."""
        said = {row.part.code for row in self.used}
        return tuple(part.name for part, _quantity in self.planned if part.code not in said)

    @property
    def parts_said(self) -> bool:
        return bool(self.used) or "parts" in self.nothing_more

    @property
    def times_said(self) -> bool:
        return bool(self.times) or "time" in self.nothing_more

    @property
    def charges_said(self) -> bool:
        return bool(self.charges or self.mileages) or "charges" in self.nothing_more


def entries_of(visit: Visit) -> Entries:
    """All that was recorded of what a visit took."""
    rows = {"visit": visit}
    parts = Part.objects.filter(code__in=visit.takes).order_by("name") if visit.takes else []
    sources = [f"source__{owner}" for owner in OWNERS]
    used = UsedPart.objects.filter(**rows).select_related("part", "technician", "source", *sources)
    return Entries(
        planned=[(part, int(visit.takes[part.code])) for part in parts],
        used=list(used.order_by("at", "id")),
        removed=list(RemovedPart.objects.filter(**rows).select_related("part", "technician").order_by("at", "id")),
        goers=_goers(visit),
        times=list(SaidTime.objects.filter(**rows).order_by("technician_id", "sort")),
        charges=list(Charge.objects.filter(**rows).select_related("technician").order_by("at", "id")),
        mileages=list(Mileage.objects.filter(**rows).select_related("technician").order_by("at", "id")),
        nothing_more=sorted(NothingMore.objects.filter(**rows).values_list("of", flat=True)),
    )


def _goers(visit: Visit) -> list[Goer]:
    """Who goes, whoever leads first, with what was stamped for each of them."""
    held = _held([visit.pk]).get(visit.pk, ())
    rows = Assignment.objects.filter(visit=visit).select_related("technician").order_by("-leads", "technician__name")
    return [
        Goer(
            technician_id=row.technician_id, name=row.technician.name,
            presence=Presence(
                departed=to_moment(row.departed_at), arrived=to_moment(row.arrived_at),
                finished=to_moment(row.finished_at), held=held,
            ),
        )
        for row in rows
    ]  # fmt: skip


def _held(visit_ids: Sequence[int]) -> dict[int, tuple[tuple[int, int | None], ...]]:
    """Stretches in which visits were on hold; the last is open where one still is."""
    steps = [Step.HOLD, Step.RESUME, Step.FINISH, Step.REOPEN]
    rows = VisitEvent.objects.filter(visit__in=visit_ids, step__in=steps).order_by("happened_at", "id")
    found: defaultdict[int, list[tuple[int, int | None]]] = defaultdict(list)
    for visit_id, step, at in rows.values_list("visit_id", "step", "happened_at"):
        stretches, moment = found[visit_id], int(at.timestamp())
        is_held = bool(stretches) and stretches[-1][1] is None
        if step == Step.HOLD and not is_held:
            stretches.append((moment, None))
        elif step != Step.HOLD and is_held:
            stretches[-1] = (stretches[-1][0], moment)
    return {key: tuple(rows) for key, rows in found.items()}

"""Proposals as JSON: kept with their run, shown on screens, and taken up again when they are accepted."""

from collections.abc import Mapping
from dataclasses import asdict, dataclass, replace
from datetime import date, datetime
from functools import partial
from typing import Any

from apps.orders.lines import VisitLine
from apps.scheduling.problems import Loaded
from apps.scheduling.schedule import findings, schedule
from core.calendars import day_words, local_day, local_time, window_words
from core.orders import VisitState
from core.scheduling import AIMS, Aim
from core.scheduling.evaluation.findings import Finding
from core.scheduling.judgement.proposal import Placing, Proposal, ProposedChange
from core.scheduling.model.reasons import about
from foundation.snapshot import one_moment


@dataclass(frozen=True, kw_only=True)
class Counted:
    """The limits that do not hold on the days of a proposal, as the board has them: now, and with all of it taken."""

    before: tuple[Finding, ...]
    after: tuple[Finding, ...]


@one_moment()
def count_broken(
    loaded: Loaded, proposal: Proposal, *, first: date, days: int, technician_id: int | None, now: datetime
) -> Counted:
    """What the board counts as broken on these days, before and after."""
    ids = None if technician_id is None else [technician_id]
    changed = {change.visit_id: _as_placed(loaded, change) for change in proposal.changes}
    stand = partial(schedule, first=first, days=days, now=now, technician_ids=ids)
    before = findings(stand())
    return Counted(before=before, after=findings(stand(changed=changed)) if changed else before)


def _as_placed(loaded: Loaded, change: ProposedChange) -> VisitLine:
    line = loaded.lines[change.visit_id]
    if not change.after:
        return replace(line, technician_id=None, start=None, mates=(), state=VisitState.OPEN)
    lead, *mates = change.after
    return replace(
        line, technician_id=lead.technician_id, start=lead.start, mates=tuple(mate.technician_id for mate in mates),
        state=VisitState.PLACED,
    )  # fmt: skip


def as_json(loaded: Loaded, proposal: Proposal, counted: Counted) -> dict[str, Any]:
    """A proposal with everything a screen shows of it."""
    names = {day.technician.id: day.technician.name for day in loaded.problem.days}
    return {
        "changes": [_change(loaded, change, names) for change in proposal.changes],
        "before": asdict(proposal.before),
        "after": asdict(proposal.after),
        "aims": _aims(proposal.points_before, proposal.points_after),
        "broken_before": len(counted.before),
        "broken_after": [_broken(loaded, names, found) for found in counted.after],
        "unserved": [
            {
                "visit_id": row.visit_id,
                "label": row.label,
                "title": loaded.lines[row.visit_id].title,
                "reasons": list(row.reasons),
            }
            for row in proposal.unserved
        ],
        "seed": proposal.seed,
        "seconds": round(proposal.seconds, 2),
        "iterations": proposal.iterations,
        "stopped": proposal.stopped,
        "freed": sorted(proposal.freed),
        "to_call": _to_call(loaded, proposal),
    }


def _to_call(loaded: Loaded, proposal: Proposal) -> list[dict[str, Any]]:
    """Customers whom somebody has to call: what they were promised, or told, is not so in this plan."""
    tz = loaded.problem.days[0].tz if loaded.problem.days else None
    changed = {change.visit_id: change for change in proposal.changes}
    rows = []
    for visit_id, line in loaded.lines.items():
        if line.promise is None or tz is None or line.arrived is not None:
            continue
        was = f"promised {window_words(line.promise, tz)}"
        starts = [stop.start for _day, stop in proposal.plan.where.get(visit_id, ())]
        change = changed.get(visit_id)
        if not starts:
            why = f"{was}, and nobody has time for it"
        elif change is None or line.promise.holds(starts[0]):
            continue
        else:
            why = f"{was}, would be {local_time(starts[0], tz)} on {day_words(local_day(starts[0], tz))}"
        rows.append(
            {"visit_id": visit_id, "label": f"{line.number} {line.site}", "customer": line.customer, "why": why}
        )
    return rows


def _aims(before: Mapping[Aim, float], after: Mapping[Aim, float]) -> list[dict[str, Any]]:
    """Costs as minutes of driving: a point is a second of it."""
    return [
        {
            "aim": aim.value,
            "name": AIMS[aim].name,
            "before": round(before.get(aim, 0) / 60, 1),
            "after": round(after.get(aim, 0) / 60, 1),
        }
        for aim in Aim
        if round(before.get(aim, 0)) or round(after.get(aim, 0))
    ]


def _change(loaded: Loaded, change: ProposedChange, names: Mapping[int, str]) -> dict[str, Any]:
    line = loaded.lines[change.visit_id]
    return {
        "visit_id": change.visit_id,
        "version": line.version,
        "kind": change.kind,
        "label": change.label,
        "title": line.title,
        "site": line.site,
        "seconds": line.duration_seconds,
        "lon": line.place.lon,
        "lat": line.place.lat,
        "before": [_placing(loaded, placing, names) for placing in change.before],
        "after": [_placing(loaded, placing, names) for placing in change.after],
        "reasons": list(change.reasons),
    }


def _placing(loaded: Loaded, placing: Placing, names: Mapping[int, str]) -> dict[str, Any]:
    technician_id, day = loaded.keys[placing.day]
    return {
        "technician_id": technician_id,
        "technician": names[technician_id],
        "day": day.isoformat(),
        "start": placing.start,
    }


def _broken(loaded: Loaded, names: Mapping[int, str], found: Finding) -> str:
    line = loaded.lines.get(found.visit_id or 0)
    who = line.number if line else names.get(found.technician_id, "")
    return str(about(who, found.why))


def changes_from(loaded: Loaded, rows: list[dict[str, Any]]) -> list[ProposedChange]:
    """A stored proposal's changes, in the numbers of a problem that was loaded anew."""
    numbers = {key: number for number, key in enumerate(loaded.keys)}

    def placings(found: list[dict[str, Any]]) -> tuple[Placing, ...]:
        return tuple(
            Placing(
                day=numbers[row["technician_id"], date.fromisoformat(row["day"])],
                technician_id=row["technician_id"],
                start=row["start"],
            )
            for row in found
        )

    return [
        ProposedChange(
            visit_id=row["visit_id"],
            label=row["label"],
            before=placings(row["before"]),
            after=placings(row["after"]),
            reasons=tuple(row["reasons"]),
        )
        for row in rows
    ]

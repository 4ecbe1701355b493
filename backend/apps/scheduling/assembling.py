"""Rows as values of the core: the only place where a visit's length, limits and people are put together.

Board, drag, openings, offers, runs and what is said about them all come from here, so they cannot differ.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from datetime import date, timedelta
from zoneinfo import ZoneInfo

from apps.company.queries import time_zone
from apps.customers.people import preferred_at, refused_at, required_at
from apps.orders import queries as orders
from apps.orders.commands import TOLD
from apps.orders.lines import VisitLine
from apps.people.queries import certificate_names, skill_names
from apps.people.working_days import WorkingDay
from apps.roads.queries import travel_among
from apps.scheduling.playbooks import playbook_of, playbook_row
from apps.scheduling.vans import vans_for
from apps.stock.queries import part_names
from core.basics import Interval, Place
from core.calendars import epoch
from core.company.settings import parse_span
from core.learning import Learned
from core.roads.travel import TimedTravel
from core.scheduling import Actual, Day, Load, Playbook, Stop, TechnicianSpec, VisitSpec
from core.scheduling.model.reasons import Code, Why, why
from core.scheduling.model.vans import Vans


@dataclass(frozen=True, kw_only=True)
class Days:
    """Days of several technicians that share one table of driving, and what is known of their visits."""

    days: dict[int, Day]
    travel: TimedTravel
    index: dict[Place, int]
    facts: "Facts"

    def spec(self, line: VisitLine, day: date, *, promised: bool = True) -> VisitSpec:
        """A visit that may come onto these days, as the company's playbook has it; see `Facts.spec`."""
        return self.facts.playbook.told_of(self.facts.spec(line, self.index, day, promised=promised))


def days_of(
    technicians: Iterable[WorkingDay],
    visits: Iterable[VisitLine],
    tz: ZoneInfo,
    *,
    day: date,
    also: Iterable[VisitLine] = (),
    facts: "Facts | None" = None,
    travel: TimedTravel | None = None,
    vans: Vans | None = None,
) -> Days:
    """One Day per technician with their visits of that date, as the company's playbook has them.

    Parameters
    ----------
    also
        Further visits that are asked about: they are among the places, and vans are looked at for their parts.
    facts, travel, vans
        What is known of all the visits, driving among all places, and what lies on vans, where that is known already.
    """
    technicians, visits, also = list(technicians), list(visits), list(also)
    travel = travel or travel_among([*places_of(technicians, visits), *(line.place for line in also)])
    index = travel.index
    stops: dict[int, list[Stop]] = {technician.id: [] for technician in technicians}
    if facts is None:
        facts = facts_of([*visits, *also])
    if vans is None:
        vans = vans_for([*visits, *also], but=[line.id for line in also])
    for visit in visits:
        for technician_id in technicians_of(visit):
            if technician_id in stops:
                spec = facts.spec(visit, index, day)
                spec = spec if technician_id == visit.technician_id else without_parts(spec)
                stops[technician_id].append(stop_of(visit, spec))
    days = {
        technician.id: facts.playbook.told(
            Day(
                technician=facts.with_load(technician.spec, vans, day), tz=tz, shift=technician.shift,
                start_place=index[technician.start_place], end_place=index[technician.end_place],
                absences=technician.absences, stops=tuple(stops[technician.id]),
            )
        )
        for technician in technicians
    }  # fmt: skip
    return Days(days=days, travel=travel, index=index, facts=facts)


def places_of(technicians: Iterable[WorkingDay], visits: Iterable[VisitLine]) -> list[Place]:
    """Where days begin and end, and where the visits are."""
    places = [place for technician in technicians for place in (technician.start_place, technician.end_place)]
    return [*places, *(visit.place for visit in visits)]


def without_parts(visit: VisitSpec) -> VisitSpec:
    """The visit as somebody meets it who goes along: its parts are on the van of the one who leads."""
    return replace(visit, parts={}) if visit.parts else visit


def technicians_of(visit: VisitLine) -> tuple[int, ...]:
    """Who goes: the technician and the mates."""
    return () if visit.technician_id is None else (visit.technician_id, *visit.mates)


def opening_of(visit: VisitLine, first: date, last: date, tz: ZoneInfo) -> tuple[Interval, ...]:
    """When the site is open on these days; empty: always.

    A week more is looked at, so that a site that is closed on all of these days has hours all the same: others.
    """
    if not any(visit.opening):
        return ()
    found = []
    for number in range((last - first).days + 8):
        day = first + timedelta(days=number)
        span = visit.opening[day.weekday()]
        if span:
            start, end = parse_span(span)
            found.append(Interval(start=epoch(day, start, tz), end=epoch(day, end, tz)))
    return tuple(found)


def stop_of(visit: VisitLine, spec: VisitSpec, *, start: int | None = None) -> Stop:
    """A visit as a stop, at its own start or at another one.

    Raises
    ------
    ValueError
        When it has no start of its own and none is given.
    """
    begins = visit.start if start is None else start
    if begins is None:
        raise ValueError("a visit without a start is no stop")
    actual = Actual(departed=visit.departed, arrived=visit.arrived, finished=visit.finished)
    return Stop(visit=spec, start=begins, actual=actual)


@dataclass(frozen=True, kw_only=True)
class Names:
    """What keys are called. Rows hold keys; the core is told names, because it says them."""

    skills: Mapping[str, str]
    certificates: Mapping[str, str]
    parts: Mapping[str, str]


def names_for(lines: Iterable[VisitLine]) -> Names:
    """The names that these visits' keys have now; only what they need is read."""
    lines = list(lines)
    return Names(
        skills=skill_names() if any(line.needs for line in lines) else {},
        certificates=certificate_names() if any(line.certificates for line in lines) else {},
        parts=part_names() if any(line.takes for line in lines) else {},
    )


def named(amounts: Mapping[str, int], names: Mapping[str, str]) -> Mapping[str, int]:
    """Amounts by key as amounts by name."""
    return {names.get(code, code): amount for code, amount in amounts.items()} if amounts else amounts


@dataclass(frozen=True, kw_only=True)
class Facts:
    """What is known of some visits besides their own rows, read once for all of them; see `facts_of`.

    `required`, `refused`, `preferred` and `last` are by site, `learned` by job type. `playbook` is the company's usual
    one.
    """

    tz: ZoneInfo
    playbook: Playbook
    learned: Mapping[int, Learned]
    required: Mapping[int, frozenset[int]]
    refused: Mapping[int, frozenset[int]]
    preferred: Mapping[int, frozenset[int]]
    last: Mapping[int, int]
    names: "Names"
    # Many visits are of one job type and length.
    _known: dict[tuple[int, int], Mapping[int, int]] = field(default_factory=dict, repr=False)

    def spec(
        self, line: VisitLine, index: Mapping[Place, int], first: date, last: date | None = None, *,
        promised: bool = True,
    ) -> VisitSpec:  # fmt: skip
        """A visit as the core knows it.

        Parameters
        ----------
        index
            The number of each place, as `travel_among` gives it.
        first, last
            The days that are looked at; `last` None: only the first.
        promised
            Whether what was promised holds; not where the customer is asked anew.
        """
        locked_because = _lock(line)
        return VisitSpec(
            id=line.id,
            label=f"{line.number} {line.site}",
            place=index[line.place],
            duration=line.duration_seconds,
            durations=self._durations(line),
            needs=named(line.needs, self.names.skills),
            certificates=frozenset(self.names.certificates.get(code, code) for code in line.certificates),
            area=line.area,
            promise=line.promise if promised else None,
            earliest=line.earliest,
            due=line.due,
            crew=line.crew,
            opening=opening_of(line, first, last or first, self.tz),
            required=self.required.get(line.site_id, frozenset()),
            forbidden=self.refused.get(line.site_id, frozenset()),
            preferred=self.preferred.get(line.site_id, frozenset()),
            last_technician=self.last.get(line.site_id),
            parts=named(line.takes, self.names.parts),
            priority=line.priority,
            value=line.worth or 0,
            told=line.state in TOLD,
            locked=locked_because is not None,
            locked_because=locked_because,
        )

    def with_load(self, technician: TechnicianSpec, vans: Vans, day: date) -> TechnicianSpec:
        """The technician with what can be taken along on a day, if anybody counts it."""
        return self._with(technician, vans.load(technician.id, day))

    def with_run_load(self, technician: TechnicianSpec, vans: Vans, first: date, day: date) -> TechnicianSpec:
        """The same for a day of a run that begins on `first`, in which many are planned at once."""
        return self._with(technician, vans.run_load(technician.id, first, day))

    def load(self, vans: Vans, technician_id: int, day: date) -> Load | None:
        """What somebody can take on a day of the parts in question, by names; None: nobody counts the van."""
        found = vans.load(technician_id, day)
        return None if found is None else self._told(found)

    def _with(self, technician: TechnicianSpec, load: Load | None) -> TechnicianSpec:
        return technician if load is None else replace(technician, load=self._told(load))

    def _told(self, load: Load) -> Load:
        """By names, as reasons say them."""
        return Load(
            van=named(load.van, self.names.parts), depot=load.depot, free=named(load.free, self.names.parts),
            arrivals=tuple(replace(row, part=self.names.parts.get(row.part, row.part)) for row in load.arrivals),
        )  # fmt: skip

    def _durations(self, line: VisitLine) -> Mapping[int, int]:
        """The visit's length by technician, where history says that theirs differs."""
        if line.job_type_id is None or line.job_type_id not in self.learned or line.duration_seconds is None:
            return {}
        key = (line.job_type_id, line.duration_seconds)
        if key not in self._known:
            self._known[key] = self.learned[line.job_type_id].for_duration(line.duration_seconds)
        return self._known[key]

    def spread(self, lines: Iterable[VisitLine]) -> dict[int, float]:
        """How much the length of each of these visits scatters, as a share of it, where history says."""
        known = ((line.id, self.learned.get(line.job_type_id or 0)) for line in lines)
        return {key: learned.spread / learned.mean for key, learned in known if learned is not None}


def facts_of(lines: Iterable[VisitLine], *, wishes: bool = False) -> Facts:
    """What is known of these visits.

    Parameters
    ----------
    wishes
        Also who is preferred at their sites and who was there last: they weigh, and limit nothing.
    """
    lines = list(lines)
    sites = {line.site_id for line in lines}
    return Facts(
        tz=time_zone(),
        playbook=playbook_of(playbook_row(None)),
        names=names_for(lines),
        learned=orders.learned_lengths(line.job_type_id for line in lines if line.job_type_id is not None),
        required=required_at(sites),
        refused=refused_at(sites),
        preferred=preferred_at(sites) if wishes else {},
        last=orders.last_technicians(sites) if wishes else {},
    )


def _lock(visit: VisitLine) -> Why | None:
    """Why the visit may not be moved, if it may not."""
    if visit.state.is_under_way:
        return why(Code.UNDER_WAY, state=visit.state.value.replace("_", " "))
    if visit.state.is_ended:
        return why(Code.OVER, state=visit.state.value)
    return why(Code.PINNED) if visit.pinned else None

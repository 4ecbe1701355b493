"""Which windows can be kept: each with a placement that proves it, everything else that was promised included.

Visits that were promised and have no technician yet are first put where they fit. That plan is not carried out; it
shows that they all fit. A window is offered when the new visit fits into it, or into a plan made anew around it that
breaks nothing.
"""

from collections import Counter
from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date
from functools import cached_property
from zoneinfo import ZoneInfo

import numpy as np

from core.appointments.offers import Facts, Offer, OfferRules, Offers, Remedy, in_words, score, window_in_words
from core.basics import Interval, minutes_in_words
from core.calendars import day_words, local_day, local_time
from core.roads.travel import Travel
from core.scheduling.engine.model import Model
from core.scheduling.engine.openings import Opening, OpeningFinder, Seat
from core.scheduling.engine.operations import fill, propose
from core.scheduling.engine.search import Budget
from core.scheduling.engine.tuning import WARM
from core.scheduling.evaluation.evaluate import day_of, evaluate, with_plan
from core.scheduling.evaluation.rules import fit_rules
from core.scheduling.judgement.proposal import ProposedChange
from core.scheduling.model.day import Day, Load, Stop, VisitSpec
from core.scheduling.model.limits import Limit
from core.scheduling.model.playbook import Setting
from core.scheduling.model.problem import Plan, Problem
from core.scheduling.model.timetable import Kind

# Windows asked about at once.
SLOTS = 64
CANDIDATE = -1
# To find places for what was promised without a technician, per visit; and to make room for one visit.
HOLD_ITERATIONS, ROOM_ITERATIONS = 60, 300
# So much more pressing must work be for other work to make room for it.
YIELDS_BY = 2
# Windows that room is made in, and days that remedies are looked for on: each costs a search.
ROOMS_TRIED, REMEDY_DAYS = 4, 3
REMEDY_OVERTIME = 3600
# Placements weighed within one window.
WEIGHED = 3


@dataclass(frozen=True, kw_only=True)
class _Found:
    """The best placement within a window, and how many could keep it."""

    window: Interval
    opening: Opening
    able: int
    moves: tuple[ProposedChange, ...] = ()
    days: Mapping[int, tuple[Stop, ...]] | None = None


class OfferFinder:
    """A company's days kept ready, so that each question costs milliseconds.

    Parameters
    ----------
    problem
        Days with what is placed on them; the backlog holds what was promised and has no technician yet.
    """

    def __init__(self, problem: Problem) -> None:
        self.held: frozenset[int] = frozenset()
        # Whatever a playbook makes of promises: here they are kept, to the minute.
        limits = {**problem.playbook.limits, Limit.PROMISE: Setting()}
        problem = base = replace(problem, playbook=replace(problem.playbook, limits=limits))
        if problem.backlog:
            found = fill(problem, budget=Budget(iterations=HOLD_ITERATIONS * len(problem.backlog)))
            base = with_plan(problem, found.plan)
            self.held = frozenset(visit.id for visit in problem.backlog) - {visit.id for visit in base.backlog}
        # Promised, and even now nobody can keep it.
        self.unkept = tuple(visit.id for visit in base.backlog)
        self.base = replace(base, backlog=())
        slots = tuple(
            VisitSpec(id=-(number + 1), label="", place=0, duration=1800, promise=Interval(start=0, end=1 << 40))
            for number in range(SLOTS)
        )
        self.finder = OpeningFinder(replace(self.base, backlog=slots))
        self.model: Model = self.finder.model

    def offers(
        self, visit: VisitSpec, windows: Sequence[Interval], *, rules: OfferRules, travel: Travel | None = None
    ) -> Offers:
        """Windows that can be kept for a visit that is not placed, best first.

        Parameters
        ----------
        visit
            What is asked for; its own promise is not looked at.
        windows
            To choose from; those that the wish and the clock allow.
        travel
            When the visit is at a place that the days did not know: travel that has it besides the others,
            under the same numbers.
        """
        if travel is not None:
            self._use(travel)
            self.model.reach([visit.place])
        if visit.duration is None:
            return Offers(offers=(), looked_at=0, refusals=("Nobody has said how long it takes: give a duration",))
        if not self._of_date:
            return Offers(offers=(), looked_at=len(windows), refusals=("Nobody has a shift on these days",))
        if not windows:
            return Offers(offers=(), looked_at=0, refusals=("No window is offered at such times",))
        # Slots stand for visits that one technician does alone and that take nothing off a van.
        plain = visit.crew == 1 and not visit.parts
        found = list(self._alone(visit, windows) if plain else self._by_the_day(visit, windows))
        kept = {row.window for row in found}
        rest = [window for window in windows if window not in kept]
        if len(found) < rules.shown:
            found += self._rooms(visit, rest)
        made = self._weigh(visit, found, rules)
        if made:
            return Offers(offers=tuple(made), looked_at=len(windows))
        return Offers(
            offers=(), looked_at=len(windows), refusals=tuple(self._refusals(visit, windows)),
            remedies=tuple(self._remedies(visit, windows)),
        )  # fmt: skip

    def learn(self, loads: Sequence[Load | None]) -> None:
        """What can be taken on each of the days, in their order, of parts that a question is about.

        The days know of the parts of their own work only, and share out what is free at a depot; one visit may have
        all of it.
        """
        self.base = replace(self.base, days=tuple(map(_with_load, self.base.days, loads)))

    def keeps(self, visit: VisitSpec, window: Interval, *, travel: Travel | None = None) -> Offer | None:
        """Whether a window can be kept, now: the offer that proves it, or None."""
        rules = OfferRules(shown=1)
        found = self.offers(visit, [window], rules=rules, travel=travel).offers
        return found[0] if found else None

    def _use(self, travel: Travel) -> None:
        self.base = replace(self.base, travel=travel)
        self.finder.problem = replace(self.finder.problem, travel=travel)
        self.model.problem = self.finder.problem

    # --- placements ---------------------------------------------------------------------------------

    def _alone(self, visit: VisitSpec, windows: Sequence[Interval]) -> Iterator[_Found]:
        """Windows in which one technician has room as the days stand."""
        search, model = self.finder.search, self.model
        slots = [model.of_visit[-(number + 1)][0] for number in range(SLOTS)]
        for first in range(0, len(windows), SLOTS):
            batch = windows[first : first + SLOTS]
            asked = {
                slots[n]: replace(visit, id=-(n + 1), promise=window, other_windows=(), crew=1)
                for n, window in enumerate(batch)
            }
            model.retarget(asked, closed=search.closed)
            for (c, one), window in zip(asked.items(), batch, strict=True):
                if not model.tasks[c].windows or not model.arrays.m:
                    continue
                ranked = search.rank(c)
                best = self._best(one, c, ranked)
                if best is not None:
                    able = {model.shifts[v].day.technician.id for _cost, v, _k in ranked}
                    yield _Found(window=window, opening=best, able=len(able))

    def _best(self, visit: VisitSpec, c: int, ranked: Sequence[tuple[int, int, int]]) -> Opening | None:
        """The cheapest placement that holds as the evaluator sees it."""
        for _cost, v, k in ranked[:WEIGHED]:
            opening = self.finder._opening(visit, {v: self.finder._starts(c, v, k)})
            if opening is not None:
                return opening
        return None

    def _by_the_day(self, visit: VisitSpec, windows: Sequence[Interval]) -> Iterator[_Found]:
        """Windows in which a whole crew has room, and the parts are there; with a model of each day."""
        for day, own in self._by_date(windows).items():
            asked = tuple(replace(visit, id=-(n + 1), promise=window, other_windows=()) for n, window in enumerate(own))
            finder = OpeningFinder(self._only(day, backlog=asked))
            for one, window in zip(asked, own, strict=True):
                found = finder.openings(one.id, limit=1)
                if found.openings:
                    opening = self._as_in_base(day, found.openings[0])
                    yield _Found(window=window, opening=opening, able=found.possible)

    def _as_in_base(self, day: date, opening: Opening) -> Opening:
        """An opening found on one date alone, with the numbers of all days."""
        numbers = [index for index, other in enumerate(self.base.days) if self._date(other) == day]
        return replace(opening, seats=tuple(replace(seat, day=numbers[seat.day]) for seat in opening.seats))

    def _rooms(self, visit: VisitSpec, windows: Sequence[Interval]) -> Iterator[_Found]:
        """Windows in which there is room once work that may move makes it."""
        tried = 0
        for window in windows:
            day = local_day(window.start, self._tz)
            loose = self._yielding(visit, day)
            if not loose and not self.held:
                continue
            if tried == ROOMS_TRIED:
                return
            tried += 1
            made = self._make_room(visit, window, loose)
            if made is not None:
                yield made

    def _make_room(self, visit: VisitSpec, window: Interval, loose: Collection[int]) -> _Found | None:
        day = local_day(window.start, self._tz)
        asked = replace(visit, id=CANDIDATE, promise=window, other_windows=(), priority=1)
        problem = self._only(day, backlog=(asked,))
        linked = {key for link in self.base.links for key in (link.first, link.second)}
        # Where a person has overruled a limit it stays: it would find no place by the rules.
        overruled = {found.visit_id for _day, found in evaluate(problem, problem.as_it_stands).broken}
        # What takes the same parts stays as well: whoever else it went to might have none.
        same = {key for key in problem.standing if not visit.parts.keys().isdisjoint(problem.visits[key].parts)}
        free = frozenset((set(loose) | self.held) & problem.standing.keys()) - linked - overruled - same
        problem = replace(problem, movable=free, free=free)
        proposal = propose(problem, budget=Budget(iterations=ROOM_ITERATIONS), seed=1, tuning=WARM)
        lost = {row.visit_id for row in proposal.unserved}
        if CANDIDATE in lost or any(key in self.held or self._visit(key).promise is not None for key in lost):
            return None
        moves = tuple(
            self._as_move(day, change)
            for change in proposal.changes
            if change.visit_id not in self.held and change.visit_id != CANDIDATE
        )
        placed = next(change for change in proposal.changes if change.visit_id == CANDIDATE)
        added = self._added_drive(problem, proposal.plan, [place.day for place in placed.after])
        start = placed.after[0].start
        seats = tuple(
            Seat(day=place.day, technician_id=place.technician_id, drive_before=0, added_drive=0 if number else added)
            for number, place in enumerate(self._as_move(day, placed).after)
        )
        days = dict(zip(self._of_date[day], proposal.plan.stops, strict=True))
        opening = Opening(start=start, end=start + (visit.duration or 0), seats=seats, points={}, reasons=())
        return _Found(window=window, able=1, moves=moves, opening=opening, days=days)

    def _added_drive(self, problem: Problem, plan: Plan, days: Sequence[int]) -> int:
        before, after = problem.as_it_stands, plan
        return sum(
            day_of(problem, after, index)[1].total(Kind.DRIVE) - day_of(problem, before, index)[1].total(Kind.DRIVE)
            for index in days
        )

    def _as_move(self, day: date, change: ProposedChange) -> ProposedChange:
        numbers = [index for index, other in enumerate(self.base.days) if self._date(other) == day]
        return replace(
            change,
            before=tuple(replace(place, day=numbers[place.day]) for place in change.before),
            after=tuple(replace(place, day=numbers[place.day]) for place in change.after),
        )

    def _yielding(self, visit: VisitSpec, day: date, *, any_priority: bool = False) -> set[int]:
        """Placed work of that day that may make room: less pressing, nobody told of its hour, not held fast."""
        if not any_priority and visit.priority > 2:
            return set()
        found = set()
        for index in self._of_date.get(day, ()):
            for stop in self.base.days[index].stops:
                other = stop.visit
                less = any_priority or other.priority >= visit.priority + YIELDS_BY
                if less and not (other.locked or other.told or stop.has_begun or other.id in self.held):
                    found.add(other.id)
        return found

    # --- the days -----------------------------------------------------------------------------------

    @cached_property
    def _tz(self) -> ZoneInfo:
        return self.base.days[0].tz

    def _date(self, day: Day) -> date | None:
        return local_day(day.shift.hours.start, day.tz) if day.shift else None

    @cached_property
    def _of_date(self) -> dict[date, list[int]]:
        found: dict[date, list[int]] = {}
        for index, day in enumerate(self.base.days):
            when = self._date(day)
            if when is not None:
                found.setdefault(when, []).append(index)
        return found

    def _by_date(self, windows: Sequence[Interval]) -> dict[date, list[Interval]]:
        found: dict[date, list[Interval]] = {}
        for window in windows:
            found.setdefault(local_day(window.start, self._tz), []).append(window)
        return found

    def _only(self, day: date, *, backlog: tuple[VisitSpec, ...]) -> Problem:
        """The problem of one date; links to other dates are left out, and what they tie does not move."""
        days = tuple(self.base.days[index] for index in self._of_date.get(day, ()))
        there = {stop.visit.id for one in days for stop in one.stops}
        links = tuple(link for link in self.base.links if link.first in there and link.second in there)
        return replace(self.base, days=days, backlog=backlog, links=links, movable=frozenset(), free=frozenset())

    def _visit(self, visit_id: int) -> VisitSpec:
        return self.base.visits[visit_id]

    # --- weighing -----------------------------------------------------------------------------------

    def _weigh(self, visit: VisitSpec, found: Sequence[_Found], rules: OfferRules) -> list[Offer]:
        offers = []
        today = local_day(self.base.now, self._tz) if self.base.now is not None else min(self._of_date)
        for row in found:
            facts = self._facts(visit, row, rules, today)
            points, parts = score(facts, rules)
            reasons = in_words(facts, rules)
            if row.moves:
                reasons = (*(self.move_in_words(move) for move in row.moves), *reasons)
            late = rules.is_late(row.window)
            if late and rules.respond_by is not None:
                reasons = (f"Too late to respond by {local_time(rules.respond_by, self._tz)}", *reasons)
            if rules.outside:
                reasons = ("Outside every area", *reasons)
            offers.append(
                Offer(
                    window=row.window, start=row.opening.start,
                    technician_ids=tuple(seat.technician_id for seat in row.opening.seats), score=points, parts=parts,
                    reasons=reasons, moves=row.moves,
                    days=row.days if row.days is not None else self._days_with(visit, row),
                    recommended=(
                        rules.recommend and points >= rules.least and not row.moves and not late and not rules.outside
                    ),
                )
            )  # fmt: skip
        if not rules.recommend:
            return sorted(offers, key=lambda offer: offer.window)
        # What comes too late comes last, however near; what needs others to move comes after what does not.
        return sorted(
            offers, key=lambda offer: (rules.is_late(offer.window), bool(offer.moves), -offer.score, offer.window)
        )

    def _days_with(self, visit: VisitSpec, row: _Found) -> dict[int, tuple[Stop, ...]]:
        """The days that a placement touches, with the visit on them and everything else where it stands."""
        stop = Stop(visit=replace(visit, promise=row.window, other_windows=()), start=row.opening.start)
        return {
            seat.day: tuple(sorted((*self.base.days[seat.day].stops, stop), key=lambda one: one.order))
            for seat in row.opening.seats
        }

    def _facts(self, visit: VisitSpec, row: _Found, rules: OfferRules, today: date) -> Facts:
        day = local_day(row.window.start, self._tz)
        seat = row.opening.seats[0]
        technician = self.base.days[seat.day].technician
        near = self._near(visit, day, rules.near_metres)
        areas = Counter(other.area for other in near if other.area)
        rare, holders = self._rare(visit, seat.day, day)
        return Facts(
            near=len(near),
            near_area=areas.most_common(1)[0][0] if areas else None,
            added_drive=sum(seat.added_drive for seat in row.opening.seats),
            days_ahead=(day - today).days,
            horizon=max(1, (max(self._of_date) - today).days),
            rare_skill=rare,
            rare_holders=holders,
            load=self._load(day),
            able=row.able,
            technician=technician.name,
            last_hands=visit.last_technician == technician.id,
            near_nobody=tuple(
                f"{other.label}, promised {window_in_words(other.promise, self._tz)}"
                for other in near
                if other.id in self.held and other.promise is not None
            ),
        )

    def _near(self, visit: VisitSpec, day: date, metres: int) -> list[VisitSpec]:
        """Other visits within the near distance that day; a place's own visits count."""
        others = list({stop.visit.id: stop.visit for index in self._of_date.get(day, ()) for stop in
                       self.base.days[index].stops}.values())  # fmt: skip
        if not others:
            return []
        away = self.model.arrays.metres[visit.place, [other.place for other in others]]
        return [others[int(n)] for n in np.flatnonzero(away <= metres)]

    def _rare(self, visit: VisitSpec, index: int, day: date) -> tuple[str | None, int]:
        """The rarest skill this technician has that day and the visit does not need."""
        own = self.base.days[index].technician
        holders = self._holders(day)
        spare = [(holders[skill], skill) for skill in own.skills if skill not in visit.needs]
        if not spare:
            return None, 0
        count, skill = min(spare)
        return skill, count

    def _holders(self, day: date) -> Counter[str]:
        if day not in self._holders_by_day:
            counted: Counter[str] = Counter()
            for index in self._of_date.get(day, ()):
                counted.update(self.base.days[index].technician.skills.keys())
            self._holders_by_day[day] = counted
        return self._holders_by_day[day]

    @cached_property
    def _holders_by_day(self) -> dict[date, Counter[str]]:
        return {}

    def _load(self, day: date) -> float:
        if day not in self._loads:
            taken = whole = 0
            wanted = set(self._of_date.get(day, ()))
            for shift in self.model.shifts:
                if shift.index in wanted and shift.day.shift is not None:
                    whole += shift.day.shift.hours.seconds
                    taken += shift.timetable.total(Kind.WORK) + shift.timetable.total(Kind.DRIVE)
            self._loads[day] = taken / whole if whole else 1.0
        return self._loads[day]

    @cached_property
    def _loads(self) -> dict[date, float]:
        return {}

    # --- words --------------------------------------------------------------------------------------

    def move_in_words(self, move: ProposedChange) -> str:
        """ "Moves W-1007 Gull House to Ivor Larkin, 14:10"."""
        if not move.after:
            return f"Puts {move.label} back in the backlog; nothing was promised for it"
        place = move.after[0]
        name = self.base.days[place.day].technician.name
        return f"Moves {move.label} to {name}, {local_time(place.start, self._tz)}"

    def _refusals(self, visit: VisitSpec, windows: Sequence[Interval]) -> Iterator[str]:
        """Why no window can be kept: what keeps people out, and how many could and have no room."""
        dates = list(self._by_date(windows))
        idle = [day for day in dates if day not in self._of_date]
        if idle:
            yield f"Nobody has a shift on {', '.join(day_words(day) for day in idle[:4])}"
            if len(idle) == len(dates):
                return
        shifts = [self.base.days[index].shift for day in dates for index in self._of_date.get(day, ())]
        longest = max((shift.last_end - shift.hours.start for shift in shifts if shift is not None), default=0)
        if visit.duration is not None and visit.duration > longest:
            yield f"It takes {minutes_in_words(visit.duration)}; the longest shift has {minutes_in_words(longest)}"
            return
        people: dict[int, Day] = {}
        for day in dates:
            for index in self._of_date.get(day, ()):
                people.setdefault(self.base.days[index].technician.id, self.base.days[index])
        if not people:
            yield "Nobody has a shift on these days"
            return
        why: Counter[str] = Counter()
        able = 0
        for own in people.values():
            assert own.shift is not None
            broken = [
                found for found in fit_rules(own, Stop(visit=visit, start=own.shift.hours.start))
                if self.base.playbook.setting(found.limit).on
            ]  # fmt: skip
            able += not broken
            for limit in {found.limit for found in broken}:
                why[self._lack(limit, visit)] += 1
        for lack, count in why.most_common():
            yield f"{count} of {len(people)} technicians {lack}"
        if able:
            times = "the window" if len(windows) == 1 else f"any of the {len(windows)} windows"
            have = "has" if able == 1 else "have"
            yield f"{able} could do it and {have} no room in {times} without breaking a promise"

    def _lack(self, limit: Limit, visit: VisitSpec) -> str:
        if limit is Limit.SKILL:
            return "lack " + ", ".join(f"{skill} {level}" for skill, level in visit.needs.items())
        if limit is Limit.AREA:
            return f"do not work in {visit.area}"
        if limit is Limit.FORBIDDEN:
            return "are not wanted at this site"
        return f"are kept out by the limit “{limit.value}”"

    # --- what would help ----------------------------------------------------------------------------

    def _remedies(self, visit: VisitSpec, windows: Sequence[Interval]) -> Iterator[Remedy]:
        """What would make a window possible: overtime, somebody from another area, moving work nobody waits for."""
        for day, own in list(self._by_date(windows).items())[:REMEDY_DAYS]:
            problem = self._only(day, backlog=())
            longer = tuple(
                replace(one, shift=replace(one.shift, overtime_limit=one.shift.overtime_limit + REMEDY_OVERTIME))
                for one in problem.days
                if one.shift is not None
            )
            found = self._first(visit, own, replace(problem, days=longer))
            if found:
                window, name = found
                yield self._remedy(window, f"with up to 1 h overtime of {name}")
                break
        if visit.area is not None:
            for day, own in list(self._by_date(windows).items())[:REMEDY_DAYS]:
                found = self._first(replace(visit, area=None), own, self._only(day, backlog=()))
                if found:
                    window, name = found
                    yield self._remedy(window, f"if {name} may work in {visit.area}")
                    break
        for window in windows[:ROOMS_TRIED]:
            day = local_day(window.start, self._tz)
            made = self._make_room(visit, window, self._yielding(visit, day, any_priority=True))
            if made is not None and made.moves:
                words = "; ".join(self.move_in_words(move) for move in made.moves[:3])
                yield self._remedy(window, words)
                break

    def _remedy(self, window: Interval, words: str) -> Remedy:
        return Remedy(window=window, sentence=f"{window_in_words(window, self._tz)}: {words}")

    def _first(self, visit: VisitSpec, windows: Sequence[Interval], problem: Problem) -> tuple[Interval, str] | None:
        asked = tuple(replace(visit, id=-(n + 1), promise=window, other_windows=()) for n, window in enumerate(windows))
        if not problem.days:
            return None
        finder = OpeningFinder(replace(problem, backlog=asked))
        for one, window in zip(asked, windows, strict=True):
            found = finder.openings(one.id, limit=1).openings
            if found:
                return window, problem.days[found[0].seats[0].day].technician.name
        return None


def _with_load(day: Day, load: Load | None) -> Day:
    known = day.technician.load
    if load is None:
        return day
    return replace(day, technician=replace(day.technician, load=load if known is None else known.with_other(load)))

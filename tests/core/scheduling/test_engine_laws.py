"""Laws of the engine, on thousands of made-up problems: the evaluator is the judge."""

import random
from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from core.orders.links import LinkKind
from core.scheduling import Aim, Limit, Plan, Problem, Stop, evaluate
from core.scheduling.engine import Budget, Model, OpeningFinder, Search, fill, plan, repair
from core.scheduling.evaluation.evaluate import with_plan
from core.scheduling.judgement.proposal import accepted_part, broken_keys
from core.scheduling.model.aims import left_out
from tests.core.scheduling.random_worlds import a_problem, locked
from tests.core.worlds import at

BRIEF = Budget(iterations=40)
SEEDS = st.integers(0, 10**9)


def searched(problem: Problem, seed: int):
    model = Model(problem)
    search = Search(model.arrays)
    search.begin(seed=seed, routes=model.routes, pins=model.pins)
    search.fill()
    found = search.run(BRIEF)
    return model, found, model.plan_of(found)


def cost_of_the_impossible(problem: Problem, model: Model) -> float:
    """The engine leaves out what can go nowhere; the evaluator counts it."""
    return sum(
        points * problem.playbook.weight(aim)
        for visit_id in model.impossible
        for aim, points in left_out(problem.visits[visit_id], problem.standing.get(visit_id)).items()
    )


@given(SEEDS)
@settings(max_examples=1500)
def test_engine_and_evaluator_agree_on_feasibility_and_cost(seed):
    problem = a_problem(seed)
    model, found, planned = searched(problem, seed)
    evaluation = evaluate(problem, planned)
    assert evaluation.broken == ()
    assert evaluation.total - cost_of_the_impossible(problem, model) == pytest.approx(found.cost / 1000, abs=1)


@given(SEEDS)
@settings(max_examples=300)
def test_starts_are_where_the_evaluator_finds_them(seed):
    problem = a_problem(seed)
    _model, _found, planned = searched(problem, seed)
    evaluation = evaluate(problem, planned)
    for stops, timetable in zip(planned.stops, evaluation.timetables, strict=True):
        assert [stop.start for stop in stops] == [times.starts for times in timetable.stops]


@given(SEEDS)
@settings(max_examples=150)
def test_the_same_seed_gives_the_same_answer(seed):
    problem = a_problem(seed)
    one, two = (plan(problem, budget=BRIEF, seed=seed) for _ in range(2))
    assert one.plan == two.plan
    assert one.points_after == two.points_after


@given(SEEDS)
@settings(max_examples=300)
def test_crews_start_together_and_links_hold(seed):
    problem = a_problem(seed)
    proposal = plan(problem, budget=BRIEF, seed=seed)
    where = proposal.plan.where
    for visit_id, places in where.items():
        assert len({index for index, _ in places}) == problem.visits[visit_id].crew
        assert len({stop.start for _, stop in places}) == 1
    times = {
        (index, stop.visit_id): stop
        for index, timetable in enumerate(evaluate(problem, proposal.plan).timetables)
        for stop in timetable.stops
    }
    for link in problem.links:
        if link.second in where and link.kind is LinkKind.AFTER:
            ends = max(times[index, link.first].ends for index, _ in where[link.first])
            starts = min(stop.start for _, stop in where[link.second])
            assert starts - ends >= link.least
            assert link.greatest is None or starts - ends <= link.greatest
        if link.kind is LinkKind.TOGETHER:
            assert (link.first in where) == (link.second in where)


@given(SEEDS)
@settings(max_examples=200)
def test_everything_left_out_has_a_reason(seed):
    proposal = plan(a_problem(seed), budget=BRIEF, seed=seed)
    for unserved in proposal.unserved:
        assert unserved.reasons
        assert all(reason.strip() for reason in unserved.reasons)


def half_planned(seed: int) -> Problem:
    """A problem with a plan on it, some of it locked, and one technician who has become ill."""
    problem = a_problem(seed)
    first = replace(problem, backlog=problem.backlog[: len(problem.backlog) // 2 + 1], links=())
    standing = with_plan(first, plan(first, budget=BRIEF, seed=seed).plan)
    dice = random.Random(seed)
    days = tuple(
        replace(day, stops=tuple(locked(stop) if dice.random() < 0.4 else stop for stop in day.stops))
        for day in standing.days
    )
    crews = {visit_id: dice.random() < 0.5 for visit_id in standing.visits}
    days = tuple(  # a crew's visit is locked for all of them or for none
        replace(
            day,
            stops=tuple(
                replace(stop, visit=replace(stop.visit, locked=crews[stop.visit.id])) if stop.visit.crew > 1 else stop
                for stop in day.stops
            ),
        )
        for day in days
    )
    left = tuple(visit for visit in problem.backlog if visit.id not in standing.standing)
    return replace(standing, days=days, backlog=left)


@given(SEEDS)
@settings(max_examples=300)
def test_locks_never_move_and_nothing_breaks(seed):
    problem = half_planned(seed)
    before = broken_keys(evaluate(problem, problem.as_it_stands))
    for operation in (plan, fill, repair):
        proposal = operation(problem, budget=BRIEF, seed=seed)
        after = proposal.plan.where
        assert {(day, b.limit.value, b.visit_id) for day, b in proposal.broken_after} <= before
        if operation is not repair:
            for index, day in enumerate(problem.days):
                for stop in day.stops:
                    if stop.visit.locked:
                        assert (index, stop) in after[stop.visit.id]


def overbooked(seed: int) -> Problem:
    """Days as a hurried dispatcher leaves them: visits anywhere at any hour, crews incomplete, links broken."""
    problem = a_problem(seed)
    dice = random.Random(seed)
    stops: list[list[Stop]] = [[] for _ in problem.days]
    backlog = []
    for one in problem.backlog:
        places = dice.sample(range(len(stops)), min(len(stops), dice.choice([0, 1, 1, one.crew])))
        if not places:
            backlog.append(one)
        start, fixed = at(dice.randint(6, 17), dice.randrange(60)), dice.random() < 0.4
        for index in places:
            stops[index].append(Stop(visit=replace(one, locked=fixed), start=start))
    days = tuple(replace(day, stops=tuple(own)) for day, own in zip(problem.days, stops, strict=True))
    return replace(problem, days=days, backlog=tuple(backlog), now=dice.choice([None, at(11)]))


@given(SEEDS)
@settings(max_examples=600)
def test_however_days_were_left_nothing_gets_lost_and_nothing_more_breaks(seed):
    problem = overbooked(seed)
    before = broken_keys(evaluate(problem, problem.as_it_stands))
    for operation in (fill, plan, repair):
        proposal = operation(problem, budget=BRIEF, seed=seed)
        assert {(day, b.limit.value, b.visit_id) for day, b in proposal.broken_after} <= before
        left = {row.visit_id for row in proposal.unserved}
        assert left.isdisjoint(proposal.plan.where)
        assert left | proposal.plan.where.keys() == problem.visits.keys()
        if operation is fill:
            assert problem.standing.keys() <= proposal.plan.where.keys()


@given(SEEDS)
@settings(max_examples=200)
def test_an_opening_breaks_nothing_however_the_days_were_left(seed):
    problem = overbooked(seed)
    before = broken_keys(evaluate(problem, problem.as_it_stands))
    finder = OpeningFinder(problem)
    for one in problem.backlog:
        found = finder.openings(one.id)
        for opening in found.openings:
            added = Stop(visit=one, start=opening.start)
            stops = list(problem.as_it_stands.stops)
            for seat in opening.seats:
                stops[seat.day] = tuple(sorted((*stops[seat.day], added), key=lambda stop: stop.order))
            after = evaluate(problem, Plan(stops=tuple(stops)))
            worse = broken_keys(after) - before
            assert worse == set()
        able = {seat.technician_id for opening in found.openings for seat in opening.seats}
        assert able.isdisjoint({row.technician_id for row in found.excluded})
        assert all(row.why.reasons for row in found.excluded)


@given(SEEDS)
@settings(max_examples=300)
def test_filling_leaves_everybody_where_they_were(seed):
    problem = half_planned(seed)
    proposal = fill(problem, budget=BRIEF, seed=seed)
    for visit_id, standing in problem.standing.items():
        people = {problem.days[index].technician.id for index, _ in proposal.plan.where[visit_id]}
        assert people == standing.technician_ids
    assert all(change.kind in ("place", "retime") for change in proposal.changes)


@given(SEEDS, st.data())
@settings(max_examples=300)
def test_any_accepted_part_leaves_a_valid_plan(seed, data):
    problem = half_planned(seed)
    proposal = plan(problem, budget=BRIEF, seed=seed)
    ids = [change.visit_id for change in proposal.changes]
    wanted = data.draw(st.sets(st.sampled_from(ids))) if ids else set()
    part = accepted_part(problem, proposal.changes, wanted)
    assert wanted <= {change.visit_id for change in part.changes}
    assert broken_keys(part.evaluation) <= broken_keys(evaluate(problem, problem.as_it_stands))


@given(SEEDS)
@settings(max_examples=200)
def test_a_proposal_is_never_worse_than_what_stands(seed):
    problem = half_planned(seed)
    proposal = plan(problem, budget=BRIEF, seed=seed)
    assert sum(proposal.points_after.values()) <= sum(proposal.points_before.values()) + 1


def test_a_limit_that_is_off_is_never_reported():
    for seed in range(40):
        problem = a_problem(seed)
        evaluation = evaluate(problem, plan(problem, budget=BRIEF, seed=seed).plan)
        off = {limit for limit in Limit if not problem.playbook.setting(limit).on}
        assert not off & {found.limit for _day, found in evaluation.broken}
        assert set(evaluation.points) == set(Aim)

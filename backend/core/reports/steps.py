"""The steps of the work at a visit: which there are, which a job type wants, and which is next.

A job type composes them: which, in which order, and which have to be done before the work may be finished. A phone
works the same out without a signal; `tests/core/reports/steps.json` holds both to the same answers.
"""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

# What each step is called, in the order in which they usually come.
KINDS: Mapping[str, str] = {
    "know": "What to know first",
    "depart": "Set out",
    "arrive": "Arrive",
    "form": "Form",
    "tasks": "Tasks",
    "photos": "Photos",
    "parts": "Parts",
    "time": "Time",
    "charges": "Charges and kilometres",
    "notes": "Notes",
    "acceptance": "Customer's acceptance",
    "finish": "Finish",
}
# The visit's own way: these are always there, always have to be done, and always in this order.
WAY = ("depart", "arrive", "finish")
# Needs the state of a visit: after which step of the way it has been taken.
_AFTER = {
    "depart": frozenset({"en_route", "on_site", "on_hold", "done", "reviewed"}),
    "arrive": frozenset({"on_site", "on_hold", "done", "reviewed"}),
    "finish": frozenset({"done", "reviewed"}),
}


@dataclass(frozen=True, kw_only=True)
class WorkStep:
    """One step as a job type has it. `must`: the work is not finished without it."""

    kind: str
    must: bool = False


DEFAULT = tuple(WorkStep(kind=kind, must=kind in WAY) for kind in KINDS)


@dataclass(frozen=True, kw_only=True)
class Facts:
    """What is known of a visit's work so far.

    Attributes
    ----------
    state : of the visit.
    tasks, questions : how many there are; the steps for them are there only where there are any.
    tasks_open : those that are not done, by their words.
    questions_open : those that must be answered and are not, by their words.
    answered, photos : how many.
    parts_open : planned parts of which nobody said whether they were used, by their names.
    looked, noted, accepted : what there is to know was looked at; something was noted; the customer signed, refused, or
        was not there.
    parts_said, times_said, charges_said : something is recorded of them, or somebody said that there is nothing (more).
    """

    state: str
    tasks: int = 0
    questions: int = 0
    tasks_open: Sequence[str] = ()
    questions_open: Sequence[str] = ()
    answered: int = 0
    photos: int = 0
    parts_open: Sequence[str] = ()
    looked: bool = False
    noted: bool = False
    accepted: bool = False
    parts_said: bool = False
    times_said: bool = False
    charges_said: bool = False


@dataclass(frozen=True, kw_only=True)
class Standing:
    """How a step stands. `missing`: what is not there yet, in words; of a step that must be done it stands in the way
    of finishing."""

    kind: str
    must: bool
    done: bool
    missing: Sequence[str] = field(default=())


def steps_from(rows: Iterable[Mapping[str, Any]]) -> tuple[WorkStep, ...]:
    """Steps as they are stored; none: the usual ones.

    Raises
    ------
    ValueError
        When one is unknown or there twice, or the way is not whole and in its order.
    """
    steps = tuple(WorkStep(kind=str(row.get("kind")), must=bool(row.get("must"))) for row in rows)
    if not steps:
        return DEFAULT
    kinds = [step.kind for step in steps]
    for kind in kinds:
        if kind not in KINDS:
            raise ValueError(f"there is no step “{kind}”")
        if kinds.count(kind) > 1:
            raise ValueError(f"“{KINDS[kind]}” is there twice")
    if [kind for kind in kinds if kind in WAY] != list(WAY) or kinds[-1] != "finish":
        raise ValueError("“Set out”, “Arrive” and “Finish” are always there, in this order, and “Finish” is the last")
    return tuple(WorkStep(kind=step.kind, must=step.must or step.kind in WAY) for step in steps)


def standings(steps: Sequence[WorkStep], facts: Facts) -> tuple[Standing, ...]:
    """How each step stands that has anything to it, in the order of the steps."""
    there = {"tasks": facts.tasks > 0, "form": facts.questions > 0}
    return tuple(
        Standing(kind=step.kind, must=step.must, done=not missing, missing=missing)
        for step in steps
        if there.get(step.kind, True)
        for missing in [_missing(step.kind, facts)]
    )


def next_of(rows: Sequence[Standing]) -> Standing | None:
    """The step to take next: the first that must be taken and is not."""
    return next((row for row in rows if row.must and not row.done), None)


def in_the_way(rows: Sequence[Standing]) -> tuple[Standing, ...]:
    """What has to be done before the work may be finished."""
    return tuple(row for row in rows if row.must and not row.done and row.kind != "finish")


def _missing(kind: str, facts: Facts) -> tuple[str, ...]:
    """What a step lacks, in words; nothing: it is done."""
    if kind in _AFTER:
        return () if facts.state in _AFTER[kind] else (KINDS[kind],)
    if kind == "tasks":
        return tuple(facts.tasks_open)
    if kind == "form":
        return tuple(facts.questions_open) or (() if facts.answered else ("Nothing is answered",))
    if kind == "parts" and facts.parts_open:
        return tuple(facts.parts_open)
    lacking = {
        "know": (facts.looked, "Not looked at"),
        "photos": (facts.photos > 0, "No photo"),
        "notes": (facts.noted, "Nothing is noted"),
        "acceptance": (facts.accepted, "Nobody has signed"),
        "parts": (facts.parts_said, "Nothing is said of parts"),
        "time": (facts.times_said, "Nobody has looked at the times"),
        "charges": (facts.charges_said, "Nothing is said of charges"),
    }
    done, words = lacking[kind]
    return () if done else (words,)

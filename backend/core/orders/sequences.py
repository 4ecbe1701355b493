"""Sequences: the visits of one order and the ties between them, and what is wrong with a tie."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from core.basics import minutes_in_words
from core.orders.links import Link, LinkKind

MOST_PARTS = 30


@dataclass(frozen=True, kw_only=True)
class Tie:
    """A link from an earlier part (by its number, the first is 1) to the part that has the tie. Gaps are seconds."""

    kind: LinkKind
    to: int
    least: int = 0
    greatest: int | None = None


@dataclass(frozen=True, kw_only=True)
class Part:
    """One visit of an order as a job type foresees it. `seconds` None: not known yet."""

    title: str
    seconds: int | None = None
    needs: Mapping[str, int] | None = None
    crew: int = 1
    ties: tuple[Tie, ...] = ()


def parts_from(rows: Iterable[Mapping[str, Any]]) -> tuple[Part, ...]:
    """Further visits of a job type, as they are stored: they are parts 2, 3, and so on.

    Raises
    ------
    ValueError
        When one cannot be; with a sentence.
    """
    parts = []
    for number, row in enumerate(rows, start=2):
        title = str(row.get("title") or "").strip()
        if not title:
            raise ValueError(f"visit {number} needs a title")
        crew = int(row.get("crew") or 1)
        if not 1 <= crew <= 8:
            raise ValueError(f"{title}: a crew has 1 to 8 members")
        ties = tuple(_tie(title, number, tie) for tie in row.get("ties") or ())
        seconds = row.get("seconds")
        parts.append(
            Part(title=title, seconds=int(seconds) if seconds else None, needs=row.get("needs"), crew=crew, ties=ties)
        )
    if len(parts) > MOST_PARTS:
        raise ValueError(f"at most {MOST_PARTS} visits")
    return tuple(parts)


def _tie(title: str, number: int, row: Mapping[str, Any]) -> Tie:
    to = int(row.get("to") or 0)
    if not 1 <= to < number:
        raise ValueError(f"{title}: a tie leads to a visit before it")
    greatest = row.get("greatest")
    tie = Tie(
        kind=LinkKind(str(row.get("kind"))), to=to, least=int(row.get("least") or 0),
        greatest=None if greatest is None else int(greatest),
    )  # fmt: skip
    if tie.greatest is not None and tie.greatest < tie.least:
        raise ValueError(f"{title}: the greatest gap cannot be shorter than the least")
    return tie


def shared_worth(worth: int | None, seconds: Sequence[int | None]) -> list[int | None]:
    """What each visit of an order brings of the order's worth: by its length, the rest to the first.

    A visit of unknown length counts as an hour.
    """
    if worth is None:
        return [None] * len(seconds)
    lengths = [length or 3600 for length in seconds]
    shares = [worth * length // sum(lengths) for length in lengths]
    return [worth - sum(shares[1:]), *shares[1:]]


MOST_DAYS = 10
_STEP = 300  # a day's work is a whole number of these seconds


def day_lengths(seconds: int, days: int) -> tuple[int, ...]:
    """A job's length shared among following days: alike, the rest on the last one; fewer days where it is short.

    Raises
    ------
    ValueError
        For less than one day, or more than `MOST_DAYS`.
    """
    if not 1 <= days <= MOST_DAYS:
        raise ValueError(f"over 1 to {MOST_DAYS} days")
    each = -(-seconds // days // _STEP) * _STEP if days > 1 else seconds
    lengths = [min(each, seconds - each * day) for day in range(days)]
    return tuple(length for length in lengths if length > 0)


def day_title(name: str, day: int) -> str:
    """How a visit is called that is one day of a longer job."""
    return f"{name}, day {day}"


@dataclass(frozen=True, kw_only=True)
class Linked:
    """What a link has to know of a visit.

    Attributes
    ----------
    label : how it is called, "W-1007/2 Strip-out".
    earliest, latest : bounds of its start: what was promised, or what the work allows.
    start : where it stands on the board, if it does.
    begun, over : whether it has begun, and has ended.
    """

    label: str
    seconds: int | None = None
    earliest: int | None = None
    latest: int | None = None
    start: int | None = None
    begun: bool = False
    over: bool = False


def link_problem(link: Link, visits: Mapping[int, Linked], others: Sequence[Link]) -> str | None:
    """Why a link cannot be made, in words; None when it can.

    Rings are refused, and links that can only be meant the other way round: what comes after has begun already, is
    over, or must be there before what comes before it can be finished.
    """
    one, two = visits[link.first], visits[link.second]
    if any(_same(known, link) for known in others):
        return f"{one.label} and {two.label} are tied like that already"
    if link.kind is not LinkKind.AFTER:
        return None if link.kind is LinkKind.SAME_TECHNICIAN else _apart(one, two)
    ring = _way(link.second, link.first, others)
    if ring:
        names = ", ".join(visits[key].label if key in visits else f"#{key}" for key in [*ring, link.second])
        return f"That closes a ring: {names}. Each would wait for the other"
    return _wrong_way(one, two, link.least)


def _same(one: Link, two: Link) -> bool:
    """The same tie; "together" and "same technician" have no direction."""
    ends = (one.first, one.second)
    return one.kind is two.kind and (
        ends == (two.first, two.second) or (one.kind is not LinkKind.AFTER and ends == (two.second, two.first))
    )


def _wrong_way(one: Linked, two: Linked, least: int) -> str | None:
    """Whether `two` can come after `one` at all."""
    if two.over or (two.begun and not one.over):
        done = "is over" if two.over else "has begun"
        return f"{two.label} {done} and {one.label} is not: the link is the wrong way round"
    begins = one.start if one.start is not None else one.earliest
    last = two.start if two.start is not None else two.latest
    if begins is None or last is None:
        return None
    ready = begins + (one.seconds or 0) + least
    if last < ready:
        late = minutes_in_words(ready - last)
        return f"{two.label} starts {late} before {one.label} can be finished: the link is the wrong way round"
    return None


def _apart(one: Linked, two: Linked) -> str | None:
    if one.earliest is not None and two.latest is not None and two.latest < one.earliest:
        return f"{two.label} must start before {one.label} may: they cannot start together"
    if two.earliest is not None and one.latest is not None and one.latest < two.earliest:
        return f"{one.label} must start before {two.label} may: they cannot start together"
    return None


def _way(start: int, goal: int, links: Sequence[Link]) -> list[int]:
    """Visits on a way along "after" links, together-linked ones being one; empty when there is none."""
    found: dict[int, int] = {start: start}
    queue = [start]
    while queue:
        here = queue.pop(0)
        if here == goal:
            way = [here]
            while found[way[-1]] != way[-1]:
                way.append(found[way[-1]])
            return way[::-1]
        steps = [link.second for link in links if link.kind is LinkKind.AFTER and link.first == here]
        steps += [
            other
            for link in links
            if link.kind is LinkKind.TOGETHER and here in (link.first, link.second)
            for other in (link.first, link.second)
        ]
        for step in steps:
            if step not in found:
                found[step] = here
                queue.append(step)
    return []

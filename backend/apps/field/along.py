"""What a phone takes along, to work where there is no signal: things by name, each with a mark of its content."""

import hashlib
import json
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

from pydantic import TypeAdapter

from apps.field import queries, showing
from foundation.actors import Actor

# Today and so many days after it.
DAYS_AHEAD = 3

_JSON: TypeAdapter[Any] = TypeAdapter(Any)


@dataclass(frozen=True, kw_only=True)
class Along:
    """One thing that is taken along. `mark` is equal exactly where `content` (JSON as bytes) is."""

    name: str
    mark: str
    content: bytes


def taken_along(*, actor: Actor, now: datetime) -> list[Along]:
    """Everything that this technician's phone takes along now: days, the visits on them, and the lists that are
    looked things up in.

    Raises
    ------
    NotPermitted
        When the account belongs to no technician.
    """
    return [_marked(name, value) for name, value in _everything(actor, now)]


def as_json(rows: Sequence[Along], *, known: Mapping[str, str]) -> bytes:
    """The names of all that is to be on the phone, and whole what is not there yet or is old there.

    `known`: marks by name, as the phone has them.
    """
    names = json.dumps([row.name for row in rows]).encode()
    news = (
        b'{"name":%s,"mark":"%s","content":%s}' % (json.dumps(row.name).encode(), row.mark.encode(), row.content)
        for row in rows
        if known.get(row.name) != row.mark
    )
    return b'{"names":%s,"news":[%s]}' % (names, b",".join(news))


def _everything(actor: Actor, now: datetime) -> Iterator[tuple[str, Any]]:
    today = queries.today(actor=actor, now=now)
    days = [today + timedelta(days=ahead) for ahead in range(DAYS_AHEAD + 1)]
    seen: set[int] = set()
    for day in days:
        shown = showing.day_of(actor, day)
        yield f"day {day.isoformat()}", shown
        seen.update(row.id for row in shown.visits)
    for visit in queries.own_visits(actor=actor, ids=seen):
        yield f"visit {visit.pk}", showing.visit_of(actor, visit)
    yield f"log {today.isoformat()}", showing.log_of(actor, today)
    yield "parts", showing.parts()
    yield "van", showing.van(actor)
    yield "items", showing.items()


def _marked(name: str, value: Any) -> Along:
    content = _JSON.dump_json([row.dict() for row in value] if isinstance(value, list) else value.dict())
    return Along(name=name, mark=hashlib.sha256(content).hexdigest()[:16], content=content)

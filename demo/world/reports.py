"""Reports of finished visits: what was ticked, measured, noted and signed, over a year."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import timedelta
from typing import Any
from uuid import UUID, uuid4

import numpy as np

from apps.orders.models import Visit
from apps.orders.work import work_of
from apps.reports.models import (
    Charge,
    DoneTask,
    FormAnswer,
    Looked,
    Mileage,
    NothingMore,
    SaidTime,
    UsedPart,
    VisitNote,
    WorkAccepted,
)
from apps.stock.models import Movement, Part
from core.orders import VisitState

Row = Charge | DoneTask | FormAnswer | Looked | Mileage | NothingMore | SaidTime | UsedPart | VisitNote | WorkAccepted
KINDS = (Charge, DoneTask, FormAnswer, Looked, Mileage, NothingMore, SaidTime, UsedPart, VisitNote, WorkAccepted)
FOR_OFFICE = (
    "The lamp over the machine room door is broken: tell the caretaker.", "Parking only behind the building.",
    "The rollers will not last another year.", "Ask for the key a day before.",
)  # fmt: skip
FOR_CUSTOMER = (
    "Cleaned and adjusted, all functions tested.", "Door set anew; it closes quietly.",
    "Please keep the sill free of grit.",
)  # fmt: skip
PRAISE = ("Quick and friendly.", "Thank you!", "Came on time.")


def make_reports(dice: np.random.Generator) -> None:
    """A report for every finished visit, and what has been done so far where somebody is at work."""
    visits = Visit.objects.filter(technician__isnull=False, arrived_at__isnull=False)
    # How wide the door of each asset stands, and how much it widens from one upkeep to the next.
    gaps: dict[int, tuple[float, float]] = {}
    rows: dict[type[Any], list[Row]] = {kind: [] for kind in KINDS}
    store = _Store.opened()
    for visit in visits.select_related("order__edition", "order__asset", "technician").order_by("start", "pk"):
        for row in _of_visit(visit, dice, gaps, store):
            rows[type(row)].append(row)
    for kind, made in rows.items():
        kind.objects.bulk_create(made, batch_size=2000)


@dataclass(frozen=True, kw_only=True)
class _Store:
    """Parts by code; what was booked for which visit: the booking's name and the place it was taken from."""

    parts: dict[str, Part]
    booked: dict[tuple[int, str], tuple[UUID, int]]

    @classmethod
    def opened(cls) -> "_Store":
        rows = Movement.objects.filter(visit__isnull=False, reason="use")
        return cls(
            parts={part.code: part for part in Part.objects.all()},
            booked={
                (visit or 0, code): (key, source)
                for visit, code, key, source in rows.values_list("visit_id", "part__code", "key", "source_id")
            },
        )


def _of_visit(
    visit: Visit, dice: np.random.Generator, gaps: dict[int, tuple[float, float]], store: _Store
) -> Iterator[Row]:
    assert visit.arrived_at is not None  # asked for
    done = visit.state == VisitState.DONE
    ends = visit.finished_at or visit.arrived_at + timedelta(minutes=20)
    about: dict[str, Any] = {"visit": visit, "technician_id": visit.technician_id}
    yield Looked(**about, at=visit.arrived_at - timedelta(minutes=2))
    tasks = work_of(visit.order, "tasks")
    for words in tasks if done else tasks[: int(dice.integers(len(tasks) + 1))]:
        yield DoneTask(**about, words=words, at=_between(visit, ends, dice))
    for question in work_of(visit.order, "questions"):
        value = _value(question, visit, dice, gaps)
        if value is not None and (done or dice.random() < 0.4):
            yield FormAnswer(
                **about, asset=visit.order.asset, key=question["key"], label=question["label"], value=value,
                at=_between(visit, ends, dice),
            )  # fmt: skip
    if not done:
        return
    if dice.random() < 0.12:
        yield VisitNote(**about, reader="office", text=FOR_OFFICE[int(dice.integers(len(FOR_OFFICE)))], at=ends)
    if dice.random() < 0.3:
        yield VisitNote(**about, reader="customer", text=FOR_CUSTOMER[int(dice.integers(len(FOR_CUSTOMER)))], at=ends)
    yield from _accepted(visit, dice, about | {"at": ends})
    yield from _taken(visit, dice, about | {"at": ends}, store)


def _between(visit: Visit, ends: Any, dice: np.random.Generator) -> Any:
    assert visit.arrived_at is not None
    seconds = (ends - visit.arrived_at).total_seconds()
    return visit.arrived_at + timedelta(seconds=int(seconds * dice.uniform(0.1, 0.95)))


def _value(
    question: dict[str, Any], visit: Visit, dice: np.random.Generator, gaps: dict[int, tuple[float, float]]
) -> Any:
    """What somebody might have answered; None: not asked, or a picture."""
    key = question["key"]
    if key == "door_gap":
        asset = visit.order.asset_id or 0
        wide, widens = gaps.get(asset) or (float(dice.uniform(2.5, 5.0)), float(dice.choice([0.05, 0.1, 0.45])))
        # A door that has got too wide is set anew.
        gaps[asset] = (3.0 if wide > 7.5 else wide + widens, widens)
        return round(wide + float(dice.normal(0, 0.1)), 1)
    if question.get("shown_if"):
        return None
    kinds: dict[str, Callable[[], Any]] = {
        "number": lambda: int(dice.integers(question.get("least", 1), min(question.get("most", 20), 20) + 1)),
        "yes_no": lambda: bool(dice.random() < 0.05),
        "choice": lambda: question["choices"][int(dice.integers(len(question["choices"])))],
        "text": lambda: "14:20",
    }
    make = kinds.get(question["kind"])
    return make() if make else None


def _accepted(visit: Visit, dice: np.random.Generator, about: dict[str, Any]) -> Iterator[WorkAccepted]:
    luck = dice.random()
    name = visit.order.contact_name
    if luck < 0.35 and name:
        rating = int(dice.choice([3, 4, 5, 5]))
        words = PRAISE[int(dice.integers(len(PRAISE)))] if luck < 0.08 else ""
        yield WorkAccepted(**about, ended="signed", name=name, rating=rating, words=words)
    elif luck < 0.4:
        yield WorkAccepted(**about, ended="absent", words="The caretaker had left.")


def _taken(visit: Visit, dice: np.random.Generator, about: dict[str, Any], store: _Store) -> Iterator[Row]:
    """Parts as they were planned, mostly; now and then a time that was typed, and something that is charged."""
    for code, quantity in visit.takes.items():
        if (part := store.parts.get(code)) is not None:
            booking, source = store.booked.get((visit.pk, code), (None, None))
            yield UsedPart(**about, id=uuid4(), part=part, quantity=quantity, booking=booking, source_id=source)
    if dice.random() < 0.04:
        yield SaidTime(
            **about, sort="work", minutes=int(dice.integers(3, 14)) * 10, reason="The stamp was forgotten.",
            said_by=visit.technician.name if visit.technician else "",
        )  # fmt: skip
    if dice.random() < 0.06:
        yield Charge(**about, id=uuid4(), words="Parking", quantity=1000)
    if dice.random() < 0.15:
        yield Mileage(**about, metres=int(dice.integers(20, 240)) * 100)

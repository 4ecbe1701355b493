"""What the phone shows, as it is sent: the same whether it is asked for or taken along."""

from datetime import date

from apps.daylogs import queries as daylogs
from apps.daylogs.schemas import EarlierDayOut, vehicle_choices
from apps.field import queries
from apps.field.schemas import (
    AskedPartOut,
    FieldDayOut,
    FieldLogOut,
    FieldRowOut,
    FieldVisitOut,
    KnownItemOut,
    KnownPartOut,
    OwnVanOut,
    StandOut,
)
from apps.orders import queries as orders
from apps.orders.models import Visit
from apps.orders.schemas import VisitDetailOut, VisitOut
from apps.pricing import queries as pricing
from apps.reports import queries as reports
from apps.reports.lately import lines_for
from apps.reports.schemas import LatelyOut, ReaderOut, ReportOut, SentReportOut
from apps.stock import queries as stock
from apps.supply import queries as supply
from core.orders import VisitState
from foundation.actors import Actor


def day_of(actor: Actor, day: date) -> FieldDayOut:
    """The technician's own visits of a day, in order."""
    rows = queries.own_day(actor=actor, day=day)
    visits = [
        FieldRowOut(**VisitOut.of(row.visit).dict(), ahead=[StandOut.of(stand) for stand in row.ahead], known=row.known)
        for row in rows
    ]
    return FieldDayOut(technician_id=queries.own_id(actor), day=day, visits=visits)


def visit_of(actor: Actor, visit: Visit) -> FieldVisitOut:
    """All about a visit, with what this technician may do themselves."""
    rows = orders.assignments(visit.pk)
    own = next((row for row in rows if row.technician_id == actor.technician_id), None)
    stands = queries.ahead_of(VisitState(visit.state), own.part if own else None)
    steps = [step for step, _to in stands[0].steps]
    detail = VisitDetailOut.build(visit, orders.visit_events(visit.pk), rows, [], steps)
    return FieldVisitOut(
        **detail.dict(), ahead=[StandOut.of(stand) for stand in stands],
        lately=[LatelyOut.of(line) for line in lines_for(visit)],
        asked=[AskedPartOut.of(row) for row in supply.asked_for(visit.pk)],
        sent=[SentReportOut.of(row) for row in reports.sent(visit.pk)],
        readers=[ReaderOut(name=name, address=address) for name, address in reports.readers(visit)],
        report=ReportOut.of(reports.report(visit, reader=actor.technician_id)),
        known=queries.known_deeds(actor, visit.pk),
    )  # fmt: skip


def log_of(actor: Actor, day: date) -> FieldLogOut:
    """The technician's own day, beside the visits."""
    own = queries.own_id(actor)
    found = daylogs.day_of(own, day)
    return FieldLogOut(
        **FieldLogOut.values(found),
        vehicles=vehicle_choices(),
        known=queries.known_deeds_of_day(actor, day),
        earlier=[EarlierDayOut.of(row) for row in daylogs.unanswered_before(own, day)],
    )


def parts() -> list[KnownPartOut]:
    """All parts that are in use, by name: found on the phone by typing or scanning."""
    return [KnownPartOut.of(row) for row in stock.parts() if not row.retired]


def van(actor: Actor) -> list[OwnVanOut]:
    """What lies on the technician's own van; empty: nobody counts it."""
    place = stock.van_of(queries.own_id(actor))
    if place is None:
        return []
    pieces = stock.serials_at(place.pk)
    return [
        OwnVanOut(
            code=row.part.code, name=row.part.name, quantity=row.quantity, unit=row.part.unit, shelf=row.shelf,
            serials=pieces.get(row.part_id, []),
        )
        for row in stock.levels_at(place.pk)
    ]  # fmt: skip


def items() -> list[KnownItemOut]:
    """What may be charged, by its wording. Prices stay at the office: what it comes to is the invoice's business."""
    return [KnownItemOut(key=row.key, words=row.wording, unit=row.unit) for row in pricing.items()]

"""A year of finished visits, so that durations and the like have something to learn from."""

from datetime import date

import numpy as np

from apps.orders.models import Visit, WorkOrder
from apps.people.models import Technician
from core.calendars import epoch
from core.orders import VisitState
from demo.world.stamps import OUTCOMES
from demo.world.week import SOURCES, Week, number_orders
from demo.world.work import JOBS, Job
from foundation.moments import to_datetime

VISITS = 3000
# A year of working days: counted like this, the same history comes out on a Monday and on a Friday.
DAYS = 260
# From the morning on, so many visits fit one after the other without meeting.
HOURS_APART = 2.5


def make_history(week: Week) -> None:
    """Finished visits of the last year, each technician at a pace of their own."""
    # Its own dice: the week stays as it is, however much history there is.
    dice = np.random.default_rng(week.random.bit_generator.seed_seq.entropy)  # type: ignore[attr-defined]
    pace = {person.pk: float(np.clip(dice.normal(1.0, 0.14), 0.7, 1.35)) for person in week.people.technicians}
    taken: set[tuple[int, int, int]] = set()
    orders: list[WorkOrder] = []
    visits: list[Visit] = []
    while len(visits) < VISITS:
        technician = week.people.technicians[int(dice.integers(len(week.people.technicians)))]
        back, slot = int(dice.integers(3, DAYS)), int(dice.integers(3))
        day: date = np.busday_offset(week.today, -back).astype(date)
        key = (technician.pk, back, slot)
        found = _something(week, technician, dice)
        if key in taken or found is None:
            continue
        taken.add(key)
        order, visit = found
        opens, _closes = week.people.hours[technician.pk]
        start = epoch(day, opens, week.tz) + int((0.3 + slot * HOURS_APART) * 3600)
        seconds = int((visit.duration_seconds or 3600) * pace[technician.pk] * float(dice.lognormal(0, 0.22)))
        visit.technician, visit.start = technician, to_datetime(start)
        visit.departed_at = to_datetime(start - 900)
        visit.arrived_at, visit.finished_at = to_datetime(start), to_datetime(start + max(300, seconds))
        visit.outcome = OUTCOMES[int(dice.integers(len(OUTCOMES)))]
        order.made_at = to_datetime(start - int(dice.integers(1, 12)) * 86_400)
        orders.append(order)
        visits.append(visit)
    number_orders(week, visits)
    WorkOrder.objects.bulk_create(orders, batch_size=1000)
    Visit.objects.bulk_create(visits, batch_size=1000)


def _something(week: Week, technician: Technician, dice: np.random.Generator) -> tuple[WorkOrder, Visit] | None:
    """An order at a site that this technician may have been sent to."""
    levels = week.people.levels[technician.pk]
    jobs: list[Job] = [j for j in JOBS if j.minutes and all(levels.get(s, 0) >= n for s, n in j.needs.items())]
    job = jobs[int(dice.integers(len(jobs)))]
    site = week.sites[int(dice.integers(len(week.sites)))]
    asset = next((asset for asset in week.assets[site.pk] if asset.kind in job.fits), None)
    if asset is None:
        return None
    template = week.jobs[job.code]
    order = WorkOrder(
        customer=site.customer, site=site, asset=asset, job_type=template, title=template.name,
        edition=week.editions[job.code], priority=template.priority, source=SOURCES[int(dice.integers(len(SOURCES)))],
        made_by="Ivo Brandt",
        description=template.name, contact_phone=site.customer.phone,
    )  # fmt: skip
    visit = Visit(
        order=order, duration_seconds=template.duration_seconds, needs=template.needs, priority=template.priority,
        state=VisitState.REVIEWED,
    )  # fmt: skip
    return order, visit

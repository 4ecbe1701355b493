"""What stands besides the visits: certificates, crews, a holiday, reminders, and who has worked together."""

from datetime import date, time, timedelta

import numpy as np

from apps.board.models import Reminder
from apps.company.models import Holiday
from apps.orders.models import Visit, WorkOrder
from apps.people.models import Certificate, CertificateKind, Crew, CrewMember, Technician
from core.calendars import epoch
from core.orders import VisitState, order_state
from demo.world.week import Week
from foundation.moments import to_datetime

PAPERS = {
    "lift-mechanic": "Lift mechanic", "first-aid": "First aid", "working-at-height": "Working at height",
    "pressure-equipment": "Pressure equipment", "electrical-work": "Electrical work", "rope-access": "Rope access",
}  # fmt: skip
# By place in the list of technicians: who goes together as a rule, and who just often does.
ROPES = "rope-access"
CREWS = {"Riggers": (18, 19), "Hydraulics": (6, 7, 8)}
OFTEN = ((18, 19), (6, 7), (9, 12), (3, 5))
TIMES_TOGETHER = 7
REMINDERS = (
    (0, 0, time(11, 30), "Keys of the Millrace flats back to the caretaker"),
    (2, 0, time(14), "Van to the garage for its inspection: ask for the loan van"),
    (18, 1, time(9), "Take the long slings along"),
    (6, 1, time(12, 30), "Call the oil supplier about the drums"),
)


def make_standing(week: Week) -> None:
    """Write all of it. Its own dice: the week stays as it is."""
    dice = np.random.default_rng(9)
    technicians = week.people.technicians
    _certificates(week, dice)
    for name, places in CREWS.items():
        crew = Crew.objects.create(name=name)
        CrewMember.objects.bulk_create(
            CrewMember(crew=crew, technician=technicians[place], position=position)
            for position, place in enumerate(places)
        )
    Holiday.objects.create(day=_second_friday(week.today), name="Harbour day")
    Reminder.objects.bulk_create(
        Reminder(
            technician=technicians[place], text=text, made_by="Dora Quill",
            at=to_datetime(epoch(week.workday(offset), hour, week.tz)),
        )
        for place, offset, hour, text in REMINDERS
    )  # fmt: skip
    for lead, mate in OFTEN:
        _worked_together(technicians[lead], technicians[mate])
    _together_tomorrow(week, technicians[18], technicians[19])


def _certificates(week: Week, dice: np.random.Generator) -> None:
    rows, today = [], week.today
    kinds = {row.code: row for row in CertificateKind.objects.all()}
    papers = list(kinds.values())
    for number, technician in enumerate(week.people.technicians):
        for offset in range(2 + number % 2):
            # A few run out soon, and one has run out.
            days = -12 if number == 5 and offset == 0 else int(dice.integers(9, 900))
            until = None if offset == 2 else today + timedelta(days=days)
            kind = papers[(number + 2 * offset) % len(papers)]
            number_ = f"{kind.name[:2].upper()}-{int(dice.integers(1000, 9999))}"
            rows.append(Certificate(technician=technician, kind=kind, number=number_, valid_until=until))
    riggers = [row for row in week.people.technicians if "rigging" in week.people.levels[row.pk]]
    for number, rigger in enumerate(riggers):
        # What rope work asks for; the last one's runs out after this week.
        days = 9 if number == len(riggers) - 1 else 240
        until = today + timedelta(days=days)
        rows.append(Certificate(technician=rigger, kind=kinds[ROPES], number=f"RO-{4100 + number}", valid_until=until))
    Certificate.objects.bulk_create(rows)


def _second_friday(today: date) -> date:
    """Far enough that nobody's week in the demo is cut short by it."""
    return today + timedelta(days=(4 - today.weekday()) % 7 + 14)


def _worked_together(lead: Technician, mate: Technician) -> None:
    done = Visit.objects.filter(technician=lead, state=VisitState.REVIEWED).order_by("-start")[:TIMES_TOGETHER]
    for visit in done:
        visit.crew, visit.mates = 2, [mate.pk]
    Visit.objects.bulk_update(done, ["crew", "mates"])


def _together_tomorrow(week: Week, lead: Technician, mate: Technician) -> None:
    """Something from the backlog that takes two hands, in the afternoon, when both have driven home already."""
    visit = next(v for v in week.visits if v.technician_id is None and v.duration_seconds and not v.promise_start)
    at = to_datetime(epoch(week.workday(1), time(13, 30), week.tz))
    Visit.objects.filter(pk=visit.pk).update(
        crew=2, mates=[mate.pk], technician=lead, start=at, state=VisitState.PLACED, needs={}, due=None
    )
    WorkOrder.objects.filter(pk=visit.order_id).update(state=order_state([VisitState.PLACED]), due=None)

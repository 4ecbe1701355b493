"""Which message follows from which step."""

from apps.company.queries import company
from apps.messages.commands import Draft, write
from apps.orders.events import VisitStepped
from apps.orders.models import Visit
from apps.people.queries import technician
from core.basics import Interval
from core.calendars import local_day, local_time, zone
from core.orders import Step
from foundation import events


def connect() -> None:
    events.listen(VisitStepped, on_step)


def on_step(event: VisitStepped) -> None:
    """Tell whoever must know; in the transaction of the step, so that no step goes untold."""
    visit = event.visit
    if event.told_technician_id is not None:
        write(_to_technician(event.told_technician_id, visit, _taken_back_text(event)), now=event.at)
    if event.step is Step.SEND:
        write(_to_technician(visit.technician_id or 0, visit, _sent_text(visit)), now=event.at)
        write(_to_customer(visit, _promise_text(visit)), now=event.at)
    elif event.step is Step.DEPART:
        name = technician(visit.technician_id or 0).name
        write(_to_customer(visit, f"{name} from {company().name} is on the way to you."), now=event.at)
    elif event.step is Step.CANCEL and event.told_technician_id is not None:
        write(_to_customer(visit, f"Our visit to {visit.order.site.name} is cancelled: {event.note}"), now=event.at)


def _to_technician(technician_id: int, visit: Visit, text: str) -> Draft:
    person = technician(technician_id)
    return Draft(
        kind="technician", channel="push", name=person.name, address=f"phone of {person.name}", text=text, visit=visit
    )


def _to_customer(visit: Visit, text: str) -> Draft:
    order = visit.order
    name = order.contact_name or order.customer.name
    phone = order.contact_phone or order.customer.phone
    if phone:
        return Draft(kind="customer", channel="text", name=name, address=phone, text=text, visit=visit)
    return Draft(kind="customer", channel="e-mail", name=name, address=order.customer.email, text=text, visit=visit)


def _taken_back_text(event: VisitStepped) -> str:
    visit = event.visit
    what = f"{visit.order.number} at {visit.order.site.name}"
    if event.step is Step.PLACE and visit.technician_id == event.told_technician_id:
        return f"{what} is being moved to another time. Wait for the new one."
    return f"{what} is no longer yours. You need not go."


def _sent_text(visit: Visit) -> str:
    order = visit.order
    return f"New visit {_when(visit)}: {order.title} at {order.site.name}, {order.site.address} ({order.number})."


def _promise_text(visit: Visit) -> str:
    name = technician(visit.technician_id or 0).name
    return f"{company().name}: {name} will be with you {_window(visit)} ({visit.order.number})."


def _when(visit: Visit) -> str:
    tz = zone(company().time_zone)
    assert visit.start is not None
    moment = int(visit.start.timestamp())
    return f"{local_day(moment, tz):%a %-d %b} at {local_time(moment, tz)}"


def _window(visit: Visit) -> str:
    """The promise where the plan keeps it; else half an hour either side of the plan."""
    tz = zone(company().time_zone)
    assert visit.start is not None
    start = int(visit.start.timestamp())
    kept = visit.promise if visit.promise and visit.promise.holds(start) else None
    window = kept or Interval(start=start - 1800, end=start + 1800)
    day = local_day(window.start, tz)
    return f"on {day:%a %-d %b} between {local_time(window.start, tz)} and {local_time(window.end, tz)}"

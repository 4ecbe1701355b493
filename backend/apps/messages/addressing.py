"""How people are reached about a visit: a technician by push, a customer by text, or by e-mail without a number."""

from apps.company.queries import time_zone
from apps.messages.drafts import Draft
from apps.messages.models import Message
from apps.orders.models import Visit
from apps.people.queries import technician
from core.calendars import day_words, local_day, local_time


def to_technician(technician_id: int, visit: Visit, text: str) -> Draft:
    return to_hand(technician(technician_id).name, visit, text)


def to_hand(name: str, visit: Visit, text: str) -> Draft:
    return Draft(kind="technician", channel="push", name=name, address=f"phone of {name}", text=text, visit=visit)


def to_customer(visit: Visit, text: str) -> Draft:
    """Whoever is to be asked for there; with neither number nor address, the draft's address is empty."""
    order = visit.order
    name = order.contact_name or order.customer.name
    phone = order.contact_phone or order.customer.phone
    if phone:
        return Draft(kind="customer", channel="text", name=name, address=phone, text=text, visit=visit)
    return Draft(kind="customer", channel="e-mail", name=name, address=order.customer.email, text=text, visit=visit)


def again_to(message: Message) -> tuple[str, str]:
    """Channel and address by which a message that failed is tried again: what is known of the person now."""
    if message.kind == "technician":
        return message.channel, message.address
    if message.visit is not None:
        now = to_customer(message.visit, message.text)
        return now.channel, now.address
    if message.request is not None:
        email, phone = message.request.from_email, message.request.from_phone or message.request.contact_phone
        return ("e-mail", email) if email else ("text", phone)
    if message.quote is not None and message.quote.contact_email:
        return "e-mail", message.quote.contact_email
    return message.channel, message.address


def technicians_of(visit: Visit) -> list[int]:
    """Who goes: the technician and the mates."""
    return [] if visit.technician_id is None else [visit.technician_id, *visit.mates]


def when_in_words(visit: Visit) -> str:
    """ "Thu 26 Nov at 10:00", of a visit that is placed."""
    tz = time_zone()
    assert visit.start is not None
    moment = int(visit.start.timestamp())
    return f"{day_words(local_day(moment, tz))} at {local_time(moment, tz)}"


def stays_text(visit: Visit) -> str:
    """For whoever was told that it is no longer so."""
    return f"{visit.order.number} at {visit.order.site.name} stays as it was: {when_in_words(visit)}."

"""Which message follows from what happens. The words of messages to customers are the company's own."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import datetime

from apps.company.queries import company, settings, time_zone
from apps.intake.events import RequestAnswered, RequestTaken
from apps.intake.models import Request
from apps.messages import quotes
from apps.messages.addressing import technicians_of, to_customer, to_hand, to_technician, when_in_words
from apps.messages.commands import call_back, to_be_called, write
from apps.messages.drafts import Draft
from apps.orders.events import ChangeTakenBack, CustomerToCall, PutOnStandby, TimePromised, VisitStepped
from apps.orders.models import Visit
from apps.people.queries import technician, technicians_named
from apps.quotes.events import QuoteAnswered, QuoteAsked, QuoteSent
from apps.supply.events import HandOverPlanned, LoanDue, PartsArrived
from core.basics import Interval
from core.calendars import day_words, local_day, local_time
from core.company import fill_in
from core.orders import Step
from foundation import events


def connect() -> None:
    events.listen(VisitStepped, on_step)
    events.listen(TimePromised, lambda event: _tell(event.visit, "message_promised", event.at))
    events.listen(PutOnStandby, lambda event: _tell(event.visit, "message_standby", event.at, wait=_moment()))
    events.listen(ChangeTakenBack, on_taken_back)
    events.listen(CustomerToCall, on_to_call)
    events.listen(RequestTaken, on_request)
    events.listen(RequestAnswered, on_answer)
    events.listen(QuoteSent, quotes.on_sent)
    events.listen(QuoteAnswered, quotes.on_answered)
    events.listen(QuoteAsked, quotes.on_asked)
    events.listen(HandOverPlanned, on_hand_over)
    events.listen(PartsArrived, on_arrived)
    events.listen(LoanDue, on_loan_due)


def on_to_call(event: CustomerToCall) -> None:
    """Somebody has to talk to the customer: it stands in the outbox until somebody has."""
    to_be_called(event.visit, now=event.at, why=event.why)


def on_hand_over(event: HandOverPlanned) -> None:
    """Whoever is to bring a part along is told so."""
    write(to_technician(event.technician_id, event.visit, f"{event.words}."), now=event.at)


def on_arrived(event: PartsArrived) -> None:
    """What a visit waited for is there: somebody offers the customer a time."""
    to_be_called(event.visit, now=event.at, why=event.words)


def on_loan_due(event: LoanDue) -> None:
    """Whoever has it is asked for it, as far as they can be reached."""
    loan = event.loan
    if loan.technician is not None:
        name = loan.technician.name
        draft = Draft(kind="technician", channel="push", name=name, address=f"phone of {name}", text=f"{event.words}.")
        write(draft, now=event.at)
    elif loan.site is not None:
        customer, text = loan.site.customer, f"{company().name}: {event.words}, from {loan.site.name}."
        channel, address = ("text", customer.phone) if customer.phone else ("e-mail", customer.email)
        if address:
            draft = Draft(kind="customer", channel=channel, name=customer.name, address=address, text=text)
            write(draft, now=event.at)


def on_taken_back(event: ChangeTakenBack) -> None:
    """An undone change is not told; who has heard of it already is to be called."""
    call_back(now=event.at, visit=event.visit, seen=event.seen, led_to=event.led_to)


def _moment() -> int:
    """So many seconds a message waits that says that something is off or elsewhere: undo calls it back until then."""
    return settings().message_wait_seconds


def on_step(event: VisitStepped) -> None:
    """Tell whoever must know; in the transaction of the step, so that no step goes untold."""
    visit = event.visit
    for told in event.told:
        write(to_technician(told, visit, _taken_back_text(event, told)), now=event.at, wait=_moment())
    if event.step is Step.SEND and event.tells != "nobody":
        for draft in sending(visit, letterhead([visit])):
            if draft.kind == "technician" or event.tells == "everybody":
                write(draft, now=event.at)
    elif event.step is Step.DEPART:
        _tell(visit, "message_on_the_way", event.at)
    elif event.step is Step.CANCEL and event.tell_customer:
        # The reason is ours; what the customer reads was written, or at least read, for them.
        write(to_customer(visit, customer_text(visit, event.tell_customer)), now=event.at, wait=_moment())


@dataclass(frozen=True, kw_only=True)
class Letterhead:
    """What messages about many visits have in common, read once: who writes, the template, names of technicians."""

    company: str
    template: str
    names: Mapping[int, str]


def letterhead(visits: Iterable[Visit]) -> Letterhead:
    """For sending these visits."""
    technicians = {technician for visit in visits for technician in technicians_of(visit)}
    return Letterhead(company=company().name, template=settings().message_sent, names=technicians_named(technicians))


def sending(visit: Visit, head: Letterhead) -> list[Draft]:
    """What is written when a placed visit is sent: to those who go, and to the customer."""
    drafts = [to_hand(head.names[technician], visit, _sent_text(visit)) for technician in technicians_of(visit)]
    if visit.order.customer.is_us:
        return drafts
    lead = head.names.get(visit.technician_id or 0, "")
    text = fill_in(head.template, _words(visit, company_name=head.company, technician_name=lead))
    return [*drafts, to_customer(visit, text)]


def on_request(event: RequestTaken) -> None:
    """Who wrote to us is told that it has come in; who is on the phone knows."""
    request = event.request
    if request.channel in ("web", "e-mail") and not event.silent:
        words = {"company": company().name, "customer": request.from_name, "request": request.number}
        draft = _to_sender(request, fill_in(settings().message_received, words))
        if draft:
            write(draft, now=event.at)


def on_answer(event: RequestAnswered) -> None:
    draft = _to_sender(event.request, event.text)
    if draft:
        write(draft, now=event.at)


def _to_sender(request: Request, text: str) -> Draft | None:
    """By e-mail where one is known, else by text; None when nobody said how to reach them."""
    phone = request.from_phone or request.contact_phone
    if not (request.from_email or phone):
        return None
    channel, address = ("e-mail", request.from_email) if request.from_email else ("text", phone)
    name = request.from_name or request.contact_name
    return Draft(kind="customer", channel=channel, name=name, address=address, text=text, request=request)


def _tell(visit: Visit, setting: str, at: datetime, *, wait: int = 0) -> None:
    """Write one of the company's messages to the customer."""
    if visit.order.customer.is_us:
        return
    write(to_customer(visit, customer_text(visit, getattr(settings(), setting))), now=at, wait=wait)


def customer_text(visit: Visit, template: str) -> str:
    """A template filled in for a visit."""
    name = technician(visit.technician_id).name if visit.technician_id else ""
    return fill_in(template, _words(visit, company_name=company().name, technician_name=name))


def _words(visit: Visit, *, company_name: str, technician_name: str) -> dict[str, str]:
    order = visit.order
    return {
        "company": company_name, "customer": order.customer.name, "order": order.number, "site": order.site.name,
        "window": _window(visit), "technician": technician_name, "job": visit.title or order.title,
    }  # fmt: skip


def _taken_back_text(event: VisitStepped, told: int) -> str:
    visit = event.visit
    what = f"{visit.order.number} at {visit.order.site.name}"
    if event.step is Step.PLACE and told in technicians_of(visit):
        return f"{what} is being moved to another time. Wait for the new one."
    return f"{what} is no longer yours. You need not go."


def _sent_text(visit: Visit) -> str:
    order = visit.order
    what = visit.title or order.title
    return f"New visit {when_in_words(visit)}: {what} at {order.site.name}, {order.site.address} ({order.number})."


def _window(visit: Visit) -> str:
    """The promise where the plan keeps it, or while there is no plan; else half an hour either side of the plan."""
    tz = time_zone()
    window = visit.promise
    if visit.start is not None:
        start = int(visit.start.timestamp())
        window = visit.promise if visit.promise and visit.promise.holds(start) else None
        window = window or Interval(start=start - 1800, end=start + 1800)
    if window is None:
        return "soon"
    day = local_day(window.start, tz)
    return f"on {day_words(day)} between {local_time(window.start, tz)} and {local_time(window.end, tz)}"

"""What was written to people by now: whatever was sent has been told, and one message did not get there."""

from datetime import timedelta

from apps.company.queries import settings
from apps.messages.addressing import to_customer
from apps.messages.drafts import Draft
from apps.messages.gateways import OUT_OF_SERVICE, SimulatedGateway, Undeliverable
from apps.messages.listeners import customer_text, letterhead, sending
from apps.messages.models import Message
from apps.orders.models import Visit, VisitEvent
from core.orders import Step, VisitState

TOLD = (VisitState.SENT, VisitState.ACCEPTED, VisitState.EN_ROUTE, VisitState.ON_SITE, VisitState.ON_HOLD)


def make_messages() -> None:
    """The messages of every visit that is still to come or under way, delivered as the simulated service does."""
    visits = {row.pk: row for row in Visit.objects.with_whereabouts().filter(state__in=TOLD).order_by("start")}
    _one_number_out_of_service(visits)
    head = letterhead(visits.values())
    on_the_way = settings().message_on_the_way
    rows = []
    stamps = VisitEvent.objects.filter(visit__in=visits, step__in=[Step.SEND, Step.DEPART]).order_by(
        "happened_at", "id"
    )
    for stamp in stamps:
        visit = visits[stamp.visit_id]
        told = (
            [to_customer(visit, customer_text(visit, on_the_way))]
            if stamp.step == Step.DEPART
            else sending(visit, head)
        )
        rows += [_message(draft, stamp) for draft in told]
    Message.objects.bulk_create(rows, batch_size=1000)


def _one_number_out_of_service(visits: dict[int, Visit]) -> None:
    """The first visit to come that was sent and not yet set out for: somebody has to call there."""
    visit = next(row for row in visits.values() if row.state == VisitState.SENT)
    visit.order.contact_phone = f"+351 296 {OUT_OF_SERVICE}"
    visit.order.save(update_fields=["contact_phone"])


def _message(draft: Draft, stamp: VisitEvent) -> Message:
    row = Message(
        kind=draft.kind, channel=draft.channel, name=draft.name, address=draft.address, text=draft.text,
        visit=draft.visit, version=draft.visit.version if draft.visit else 0, written_at=stamp.happened_at, attempts=1,
        claimed_at=stamp.happened_at,
    )  # fmt: skip
    try:
        row.reference = SimulatedGateway().send(key=row.key, channel=row.channel, address=row.address, text=row.text)
        row.state, row.delivered_at = "delivered", stamp.happened_at + timedelta(seconds=1)
    except Undeliverable as error:
        row.state, row.failure = "failed", str(error)
    return row

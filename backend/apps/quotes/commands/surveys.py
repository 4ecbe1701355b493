"""Visits that look at the place before a quote: on the board like any visit, and not billed."""

from datetime import datetime

from django.db import transaction

from apps.catalogue.filling import Work
from apps.company.queries import settings
from apps.orders.commands.creating import add_visit_to, create_order
from apps.orders.inputs import NewOrder, OrderFields
from apps.orders.models import Origin, Visit, WorkOrder
from apps.quotes.commands.locking import lock_quote, tell
from apps.quotes.models import Survey
from apps.quotes.reach import check_written_by
from core.orders import OrderState
from core.roles import Action
from foundation.actors import Actor, require
from foundation.errors import Rejected

MOST_SURVEYS = 20


@transaction.atomic
def ask_for_survey(*, actor: Actor, now: datetime, quote_id: int, what: str, minutes: int | None = None) -> Visit:
    """Another visit to look at the place, in the backlog; the first one makes the order for it.

    Parameters
    ----------
    what
        What is to be found out; the technician reads it.
    minutes
        None: as long as the company's surveys are.

    Raises
    ------
    Rejected
        Without a site, for a quote that is closed, or with no words.
    """
    require(actor, Action.MAKE_ORDERS)
    quote = lock_quote(quote_id)
    check_written_by(actor, quote)
    if not quote.state_now.is_open:
        raise Rejected(f"{quote.number} is {quote.state}.", code="wrong_state")
    if quote.site is None:
        raise Rejected("Say first for which site it is.", field="site_id")
    if not what.strip():
        raise Rejected("Say what is to be found out.", field="what")
    if quote.surveys.count() >= MOST_SURVEYS:
        raise Rejected(f"More than {MOST_SURVEYS} surveys are too many.", field="what")
    seconds = 60 * (minutes or settings().survey_minutes)
    before = Survey.objects.select_related("visit__order").filter(quote=quote).order_by("pk").first()
    if before is not None and not OrderState(before.visit.order.state).is_over:
        order = WorkOrder.objects.select_for_update(of=("self",)).get(pk=before.visit.order_id)
        visit = add_visit_to(order, title=what.strip()[:120], seconds=seconds, needs={}, crew=1)
    else:
        needs = quote.job_type.needs if quote.job_type else {}
        order = create_order(
            actor=actor, now=now, sentence=f"made the order for a survey of {quote.number}",
            new=NewOrder(
                origin=Origin.QUOTE, customer=quote.customer, site=quote.site, job_type=None,
                fields=OrderFields(
                    title=f"Survey for {quote.number}: {quote.title}"[:160], description=quote.content["scope"],
                    asset_id=quote.asset_id, contact_name=quote.contact_name, contact_phone=quote.contact_phone,
                    billing="not billable", technician_note=what.strip(), source="quote",
                ),
                work=Work(
                    duration_seconds=seconds, needs=needs, priority=3, crew=1, due=None, parts={}, worth=None
                ),
                lines=[],
            ),
        )  # fmt: skip
        visit = order.visits.get()
    Survey.objects.create(quote=quote, visit=visit)
    tell(actor, now, quote, "survey", f"asked for a survey: {what.strip()}"[:300], order=order.number)
    return visit

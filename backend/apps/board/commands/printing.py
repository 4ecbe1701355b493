"""Papers of a whole day: asked for, made by the worker page by page, fetched when they are done."""

import logging
from datetime import date, datetime, timedelta

from django.core.files.base import ContentFile
from django.db import transaction

from apps.board.feeds import work_orders_of
from apps.board.models import Printout
from apps.orders.printing import work_orders_pdf
from core.roles import Action
from foundation import jobs, live
from foundation.actors import Actor, require
from foundation.errors import NotFound

log = logging.getLogger(__name__)
PRINT = "board.print"
KEPT_DAYS = 2


@transaction.atomic
def ask_for_work_orders(*, actor: Actor, now: datetime, day: date) -> Printout:
    """Have all work orders of a day printed. Nothing is changed by it.

    Raises
    ------
    NotFound
        When nothing is planned on that day.
    """
    require(actor, Action.SEE_BOARD)
    count = len(work_orders_of(day=day, technician_id=None))
    for old in Printout.objects.filter(asked_at__lt=now - timedelta(days=KEPT_DAYS)):
        old.content.delete(save=False)
        old.delete()
    row = Printout.objects.create(day=day, pages_of=count, asked_by_id=actor.id, asked_at=now)
    jobs.after_commit(PRINT, printout_id=row.pk)
    return row


def make(printout_id: int) -> None:
    """Print what was asked for. Safe to run twice."""
    row = Printout.objects.filter(pk=printout_id, state__in=("waiting", "printing")).first()
    if row is None:
        return
    _set(row, state="printing")
    try:
        order_ids = work_orders_of(day=row.day, technician_id=None)
        content = work_orders_pdf(order_ids, tell=lambda share: _set(row, share=0.95 * share))
        row.content.save(f"work-orders-{row.day.isoformat()}.pdf", ContentFile(content), save=True)
        _set(row, state="done", share=1.0)
    except Exception as error:
        log.exception("printout %s failed", printout_id)
        _set(row, state="failed", failure=f"Printing failed: {error}"[:300])


def printout(*, actor: Actor, printout_id: int) -> Printout:
    """One's own printout.

    Raises
    ------
    NotFound
    """
    row = Printout.objects.filter(pk=printout_id, asked_by_id=actor.id).first()
    if row is None:
        raise NotFound("There is no such printout (any more).", code="no_printout")
    return row


def _set(row: Printout, **values: object) -> None:
    with transaction.atomic():
        Printout.objects.filter(pk=row.pk).update(**values)
        live.announce("printout", ids=[row.pk])

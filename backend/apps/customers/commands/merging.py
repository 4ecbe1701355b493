"""Two customers that are one: everything moves to one of them, and can move back."""

from datetime import datetime

from django.db import transaction

from apps.customers.models import Customer, Merge
from apps.customers.search import make_findable
from core.roles import Action
from foundation import audit, live, merging
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected

_TAKEN_OVER = ("phone", "phone_key", "email", "payer_id", "payer_address")


@transaction.atomic
def merge(*, actor: Actor, now: datetime, kept_id: int, gone_id: int) -> Merge:
    """Move what belongs to one customer - sites, contacts, requests, orders, whatever says so - to another.

    What the kept one lacks (phone, e-mail, payer, own fields) it takes over. The other stays as a row that
    leads to it, so that old numbers and links go on working.
    """
    require(actor, Action.CHANGE_CUSTOMERS)
    if kept_id == gone_id:
        raise Rejected("Choose two different customers.", field="gone_id")
    rows = {row.pk: row for row in Customer.objects.select_for_update().filter(pk__in=[kept_id, gone_id])}
    if len(rows) < 2:
        raise NotFound("There is no such customer.", code="no_customer")
    kept, gone = rows[kept_id], rows[gone_id]
    for row in (kept, gone):
        if row.merged_into_id is not None:
            raise Conflict(f"{row.name} was merged already.", code="merged")
    moved = merging.move(Customer, from_id=gone.pk, to_id=kept.pk)
    before = {name: getattr(kept, name) for name in (*_TAKEN_OVER, "tags", "extra", "needs_po_number")}
    _take_over(kept, gone)
    taken = {name: [old, getattr(kept, name)] for name, old in before.items() if getattr(kept, name) != old}
    gone.merged_into = kept
    for row in (kept, gone):
        row.version += 1
        row.save()
    Customer.objects.filter(pk=kept.pk, payer_id=kept.pk).update(payer=None)
    done = Merge.objects.create(kept=kept, gone=gone, moved=moved, taken=taken, at=now, by=actor.name)
    _tell(actor, now, done, f"merged {gone.name} into {kept.name}")
    return done


def _take_over(kept: Customer, gone: Customer) -> None:
    if not kept.phone:
        kept.phone, kept.phone_key = gone.phone, gone.phone_key
    kept.email = kept.email or gone.email
    if kept.payer_id is None and not kept.payer_address and gone.payer_id != kept.pk:
        kept.payer_id, kept.payer_address = gone.payer_id, gone.payer_address
    kept.needs_po_number = kept.needs_po_number or gone.needs_po_number
    kept.tags = list(dict.fromkeys([*kept.tags, *gone.tags]))
    kept.extra = {**gone.extra, **kept.extra}


@transaction.atomic
def undo_merge(*, actor: Actor, now: datetime, merge_id: int) -> Merge:
    """Take two customers apart again: what had moved goes back, what came since stays.

    Raises
    ------
    Conflict
        When it was undone already, or the kept one has itself been merged since.
    """
    require(actor, Action.CHANGE_CUSTOMERS)
    done = Merge.objects.select_for_update().select_related("kept", "gone").filter(pk=merge_id).first()
    if done is None:
        raise NotFound("There is no such merge.", code="no_merge")
    if done.undone:
        raise Conflict("That was undone already.", code="undone")
    if done.kept.merged_into_id is not None:
        raise Conflict(f"{done.kept.name} was merged again since: undo that first.", code="merged")
    merging.move_back(Customer, done.moved, from_id=done.kept_id, to_id=done.gone_id)
    for name, (old, taken) in done.taken.items():
        # What somebody has changed since then stays as they made it.
        if getattr(done.kept, name) == taken:
            setattr(done.kept, name, old)
    done.gone.merged_into = None
    for row in (done.kept, done.gone):
        row.version += 1
        row.save()
    done.undone = True
    done.save(update_fields=["undone"])
    _tell(actor, now, done, f"took {done.gone.name} and {done.kept.name} apart again")
    return done


def _tell(actor: Actor, now: datetime, done: Merge, sentence: str) -> None:
    make_findable([done.kept_id, done.gone_id])
    for row in (done.kept, done.gone):
        audit.record(
            actor=actor, now=now, action="merge", entity="customer", entity_id=row.pk, version=row.version,
            sentence=sentence,
        )  # fmt: skip
    live.announce("customer", ids=[done.kept_id, done.gone_id])
    live.announce("visit")

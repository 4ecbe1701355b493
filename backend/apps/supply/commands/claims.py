"""Parts that come out again: back on the shelf, thrown away, or under warranty back to the supplier."""

from datetime import datetime

from django.db import transaction

from apps.customers.models import Asset, Site
from apps.stock import commands as stock
from apps.stock import queries as stock_queries
from apps.stock.inputs import Circumstances
from apps.stock.models import Fitted, Part, StockPlace
from apps.supply.inputs import CameOut, Settled
from apps.supply.models import Claim
from core.roles import Action
from core.stock import Move, MoveReason, PlaceKind
from foundation import audit, live
from foundation.actors import Actor, may, require
from foundation.errors import Conflict, NotFound, Rejected

# What becomes of a part that came out.
KEPT, DEFECTIVE, THROWN_AWAY = "kept", "defective", "thrown away"


@transaction.atomic
def take_back(*, actor: Actor, now: datetime, out: CameOut) -> Claim | None:
    """Book a part that came out; a defective one that its supplier answers for is followed as a claim.

    Raises
    ------
    Rejected
        Without a reason, or a place to keep it.
    Conflict
        When it does not lie there.
    """
    if not may(actor, Action.MOVE_STOCK):
        require(actor, Action.WORK_IN_FIELD)
    part = stock_queries.part_now(out.code)
    if not out.because.strip():
        raise Rejected("Say why it comes back.", field="because")
    source, target, reason = _way(out)
    fitted = _fitted(part, out)
    serials = (out.serial,) if out.serial else ()
    one = Move(
        part=part.pk, quantity=out.quantity, source=source.pk, target=target.pk, reason=reason, serials=serials,
        batch=out.batch,
    )  # fmt: skip
    how = Circumstances(visit_id=out.visit_id, asset_id=out.asset_id, note=out.because.strip())
    stock.move(actor=actor, now=now, moves=[one], how=how)
    if out.what != DEFECTIVE or part.supplier is None:
        return None
    claim = Claim.objects.create(
        part=part, quantity=out.quantity, serial=out.serial, batch=out.batch, supplier=part.supplier,
        asset_id=out.asset_id, visit_id=out.visit_id, warranty_until=fitted.warranty_until if fitted else None,
        because=out.because.strip()[:200], made_at=now, made_by=actor.name,
    )  # fmt: skip
    _tell(actor, now, claim, f"set {out.quantity} × {part.name} aside for {part.supplier.name}")
    return claim


def _way(out: CameOut) -> tuple[StockPlace, StockPlace, MoveReason]:
    if out.site_id is not None:
        if not Site.objects.filter(pk=out.site_id).exists():
            raise NotFound("There is no such site.", code="no_site")
        if out.asset_id is not None and not Asset.objects.filter(pk=out.asset_id, site=out.site_id).exists():
            raise NotFound("There is no such equipment at this site.", code="no_asset")
        source = stock.place_of_site(out.site_id)
    else:
        source = stock_queries.place(out.place_id or 0)
    if out.what == DEFECTIVE:
        return source, stock.nobodys(PlaceKind.ASIDE), MoveReason.DEFECT
    if out.what == THROWN_AWAY:
        return source, stock.nobodys(PlaceKind.SCRAP), MoveReason.SCRAP
    if out.site_id is None or out.to_place_id is None:
        raise Rejected("Say on which van or in which depot it is kept.", field="to_place_id")
    return source, stock_queries.place(out.to_place_id), MoveReason.RETURN


def _fitted(part: Part, out: CameOut) -> Fitted | None:
    """Where it was built in, for its warranty."""
    rows = Fitted.objects.filter(part=part, site=out.site_id, removed_at=None)
    rows = rows.filter(serial=out.serial) if out.serial else rows.filter(asset=out.asset_id)
    return rows.order_by("since", "id").first()


@transaction.atomic
def send_back(*, actor: Actor, now: datetime, claim_id: int, version: int) -> Claim:
    """It is on its way to the supplier."""
    require(actor, Action.MOVE_STOCK)
    claim = _locked(claim_id, version)
    _only(claim, "set aside")
    _move(actor, now, claim, stock.nobodys(PlaceKind.ASIDE), stock.place_of_supplier(claim.supplier_id))
    claim.state, claim.sent_at = "sent back", now
    return _kept(actor, now, claim, f"sent {claim.quantity} × {claim.part.name} back to {claim.supplier.name}")


@transaction.atomic
def settle(*, actor: Actor, now: datetime, claim_id: int, version: int, how: Settled) -> Claim:
    """The supplier has answered: a credit, a new one that is put away, or nothing.

    Raises
    ------
    Rejected
        When it was not sent, or the credit or the place is missing.
    """
    require(actor, Action.MOVE_STOCK)
    claim = _locked(claim_id, version)
    _only(claim, "sent back")
    if how.state == "credited" and not how.credit:
        raise Rejected("Say how much was credited.", field="credit")
    if how.state == "refused" and not how.says.strip():
        raise Rejected("Say why they refuse it.", field="says")
    if how.state == "replaced":
        if how.place_id is None:
            raise Rejected("Say where the new one was put.", field="place_id")
        one = Move(
            part=claim.part_id, quantity=claim.quantity, source=stock.place_of_supplier(claim.supplier_id).pk,
            target=how.place_id, reason=MoveReason.RECEIPT, serials=how.serials, batch=claim.batch,
        )  # fmt: skip
        stock.move(
            actor=actor, now=now, moves=[one], how=Circumstances(note=f"instead of a defective {claim.part.name}")
        )
    claim.state, claim.supplier_says, claim.ended_at = how.state, how.says.strip()[:200], now
    claim.credit = how.credit if how.state == "credited" else None
    return _kept(actor, now, claim, f"{claim.supplier.name}: {claim.quantity} × {claim.part.name} {how.state}")


def _move(actor: Actor, now: datetime, claim: Claim, source: StockPlace, target: StockPlace) -> None:
    one = Move(
        part=claim.part_id, quantity=claim.quantity, source=source.pk, target=target.pk, reason=MoveReason.DEFECT,
        serials=(claim.serial,) if claim.serial else (), batch=claim.batch,
    )  # fmt: skip
    stock.move(actor=actor, now=now, moves=[one], how=Circumstances(note=claim.because))


def _only(claim: Claim, state: str) -> None:
    if claim.state != state:
        raise Rejected(f"It is {claim.state}.", code="wrong_state", field="state")


def _locked(claim_id: int, version: int) -> Claim:
    rows = Claim.objects.select_for_update(of=("self",)).select_related("part", "supplier")
    claim = rows.filter(pk=claim_id).first()
    if claim is None:
        raise NotFound("There is no such claim.", code="no_claim")
    if claim.version != version:
        raise Conflict("It was changed meanwhile. Look at it again.", current_version=claim.version)
    return claim


def _kept(actor: Actor, now: datetime, claim: Claim, said: str) -> Claim:
    claim.version += 1
    claim.save()
    _tell(actor, now, claim, said)
    return claim


def _tell(actor: Actor, now: datetime, claim: Claim, said: str) -> None:
    audit.record(
        actor=actor, now=now, action="claim", entity="claim", entity_id=claim.pk, version=claim.version,
        sentence=said[:300],
    )  # fmt: skip
    live.announce("stock")

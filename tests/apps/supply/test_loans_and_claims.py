"""What comes out again, and what is lent: followed until it is settled."""

from datetime import timedelta

import pytest

from apps.messages.models import Message
from apps.stock import commands as stock
from apps.stock.models import Fitted, Movement, Part
from apps.supply import commands
from apps.supply.inputs import CameOut, LoanFields, Settled
from apps.supply.models import Loan
from core.stock import PlaceKind
from foundation import clock
from foundation.errors import Conflict, Rejected
from tests.apps.conftest import MONDAY, Storekeeper, lies

pytestmark = pytest.mark.django_db
WHO = Storekeeper()


def how():
    return {"actor": WHO, "now": clock.now()}


@pytest.fixture
def fitted(world, yard):
    """A roller that a visit built in, under warranty."""
    Part.objects.filter(code="door-roller").update(warranty_months=12)
    lies(world.ines, "door-roller", 3)
    used = stock.Used(
        visit_id=world.placed(9).pk, technician_id=world.ines.pk, site_id=world.site.pk, asset_id=world.asset.pk,
        parts={"door-roller": 1},
    )  # fmt: skip
    stock.take(**how(), used=used)
    return Fitted.objects.get()


def out(world, what, **more):
    values = {
        "code": "door-roller", "quantity": 1, "because": "hums", "what": what, "site_id": world.site.pk,
        "asset_id": world.asset.pk,
    }  # fmt: skip
    return commands.take_back(**how(), out=CameOut(**values | more))


def test_a_defective_part_goes_back_to_its_supplier_and_is_credited(world, yard, fitted):
    claim = out(world, "defective")
    assert (claim.state, claim.supplier, str(claim.warranty_until), claim.asset) == (
        "set aside", yard.supplier, "2027-11-23", world.asset,
    )  # fmt: skip
    aside = stock.nobodys(PlaceKind.ASIDE)
    assert yard.has(aside) == 1
    fitted.refresh_from_db()
    assert fitted.removed_because == "hums"
    with pytest.raises(Rejected, match="It is set aside"):
        commands.settle(**how(), claim_id=claim.pk, version=claim.version, how=Settled(state="credited", credit=1))
    claim = commands.send_back(**how(), claim_id=claim.pk, version=claim.version)
    assert yard.has(aside) == 0
    with pytest.raises(Rejected, match="how much"):
        commands.settle(**how(), claim_id=claim.pk, version=claim.version, how=Settled(state="credited"))
    claim = commands.settle(
        **how(), claim_id=claim.pk, version=claim.version, how=Settled(state="credited", credit=9_00)
    )
    assert (claim.state, claim.credit, claim.ended_at is not None) == ("credited", 9_00, True)


def test_a_replacement_is_put_away(world, yard, fitted):
    claim = out(world, "defective")
    claim = commands.send_back(**how(), claim_id=claim.pk, version=claim.version)
    commands.settle(
        **how(), claim_id=claim.pk, version=claim.version, how=Settled(state="replaced", place_id=yard.north.pk)
    )
    assert yard.has(yard.north) == 1
    assert Part.objects.get(code="door-roller").cost == 11_00  # it cost nothing, and changes no average


def test_what_is_still_good_is_kept_and_the_rest_is_thrown_away(world, yard, fitted):
    assert out(world, "kept", to_place_id=yard.ines.pk) is None
    assert yard.has(yard.ines) == 3
    with pytest.raises(Rejected, match="Say on which van"):
        out(world, "kept")
    with pytest.raises(Rejected, match="Say why"):
        out(world, "thrown away", because=" ")
    out(world, "thrown away", site_id=None, asset_id=None, place_id=yard.ines.pk)
    assert (yard.has(yard.ines), Movement.objects.latest("id").reason) == (2, "scrap")


# --- loans -------------------------------------------------------------------------------------------------


def lend(**fields):
    fields.setdefault("due", MONDAY + timedelta(days=7))
    return commands.lend(**how(), fields=LoanFields(**fields))


def test_something_lent_to_a_site_is_fetched_back_by_a_visit(world, yard):
    loan = lend(code="car-lamp", quantity=2, source_id=yard.north.pk, site_id=world.site.pk)
    assert yard.has(yard.north, "car-lamp") == 3
    loan = commands.fetch_back(**how(), loan_id=loan.pk, version=loan.version)
    assert (loan.fetch.order.title, loan.fetch.state, loan.fetch.order.billing) == (
        "Fetch 2 × Car lamp back", "open", "not billable",
    )  # fmt: skip
    with pytest.raises(Conflict, match="a visit for it already"):
        commands.fetch_back(**how(), loan_id=loan.pk, version=loan.version)
    loan = commands.bring_back(**how(), loan_id=loan.pk, version=loan.version, place_id=None)
    assert (loan.returned_at is not None, yard.has(yard.north, "car-lamp")) == (True, 5)
    # Twice counts once.
    commands.bring_back(**how(), loan_id=loan.pk, version=loan.version, place_id=None)
    assert yard.has(yard.north, "car-lamp") == 5


def test_a_tool_lent_to_a_technician_has_its_calibration(world, yard):
    with pytest.raises(Rejected, match="calibration has run out"):
        lend(code="car-lamp", source_id=yard.north.pk, technician_id=world.ivor.pk,
             calibrated_until=MONDAY - timedelta(days=1))  # fmt: skip
    loan = lend(code="car-lamp", source_id=yard.north.pk, technician_id=world.ivor.pk,
                calibrated_until=MONDAY + timedelta(days=90))  # fmt: skip
    assert yard.has(yard.ivor, "car-lamp") == 1
    with pytest.raises(Rejected, match="A technician brings it back"):
        commands.fetch_back(**how(), loan_id=loan.pk, version=loan.version)


def test_equipment_is_lent_to_one_at_a_time(world, yard):
    lend(asset_id=world.asset.pk, site_id=world.site.pk)
    with pytest.raises(Conflict, match="lent already"):
        lend(asset_id=world.asset.pk, technician_id=world.ivor.pk)


@pytest.mark.parametrize(
    ("fields", "says"),
    [
        ({"due": MONDAY - timedelta(days=1)}, "before today"),
        ({}, "to whom"),
        ({"site_id": 1, "technician_id": 1}, "to whom"),
    ],
)
def test_what_cannot_be_lent_is_said(world, yard, fields, says):
    with pytest.raises(Rejected, match=says):
        lend(**{"code": "car-lamp", "source_id": yard.north.pk} | fields)
    assert not Loan.objects.exists()


def test_who_has_it_is_reminded_once_and_again_after_another_day(world, yard):
    loan = lend(code="car-lamp", source_id=yard.north.pk, site_id=world.site.pk, due=MONDAY)
    assert commands.remind_borrowers(now=clock.now()) == 1
    assert commands.remind_borrowers(now=clock.now()) == 0
    message = Message.objects.get()
    assert (message.name, message.address) == ("Seagate Stores", "+351 296 555 100")
    assert "1 × Car lamp was due back on 2026-11-23" in message.text
    loan.refresh_from_db()
    commands.extend(**how(), loan_id=loan.pk, version=loan.version, due=MONDAY + timedelta(days=2))
    assert commands.remind_borrowers(now=clock.now()) == 0
    assert commands.remind_borrowers(now=clock.now() + timedelta(days=2)) == 1

"""Movements: booked wholly or not at all, once, and never more than is there; levels are their sum."""

import uuid
from concurrent.futures import ThreadPoolExecutor
from threading import Barrier

import pytest
from django.db import connection, transaction
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from apps.pricing.models import Item, TaxCode
from apps.stock import commands
from apps.stock.inputs import Circumstances, PartFields
from apps.stock.models import Fitted, Level, LevelAlarm, Lot, Movement, Part, Piece, Supplier
from core.stock import Move, MoveReason, PlaceKind, Tracking
from foundation import clock
from foundation.errors import Conflict, NotFound, Rejected
from foundation.moments import to_datetime
from tests.apps.conftest import Storekeeper, at, lies

pytestmark = pytest.mark.django_db


def part(code="door-roller"):
    return Part.objects.get(code=code)


def book(source, target, quantity=1, *, code="door-roller", reason=MoveReason.TRANSFER, how=None, **more):
    one = Move(part=part(code).pk, quantity=quantity, source=source.pk, target=target.pk, reason=reason, **more)
    return commands.move(actor=Storekeeper(), now=clock.now(), moves=[one], how=how or Circumstances())


def level(place, code="door-roller"):
    row = Level.objects.filter(place=place, part__code=code).first()
    return row.quantity if row else None


@pytest.fixture
def supplier(world):
    return commands.place_of_supplier(Supplier.objects.create(name="Norrvik Parts").pk)


@pytest.fixture
def depot(world):
    return commands.place_of_depot(world.ines.depot_id)


@pytest.fixture
def van(world):
    return commands.place_of_van(world.ines)


def test_what_moves_is_here_less_and_there_more(world, depot, van):
    lies(world.ines.depot, "door-roller", 5)
    [row] = book(depot, van, 3)
    assert (level(depot), level(van)) == (2, 3)
    assert (row.actor_name, row.reason, row.quantity) == ("Storekeeper", "transfer", 3)


def test_more_than_is_there_is_refused_and_nothing_is_booked(world, depot, van):
    lies(world.ines.depot, "door-roller", 2)
    with pytest.raises(Conflict, match=r"There is only 2 × Door roller at Northlock \(any more\): 3 wanted"):
        book(depot, van, 3)
    assert (level(depot), level(van)) == (2, None)
    with pytest.raises(Conflict, match="There is no Car lamp at Northlock"):
        book(depot, van, 1, code="car-lamp")


def test_several_are_booked_together_or_not_at_all(world, depot, van):
    lies(world.ines.depot, "door-roller", 2)
    moves = [
        Move(part=part(code).pk, quantity=1, source=depot.pk, target=van.pk, reason=MoveReason.TRANSFER)
        for code in ("door-roller", "car-lamp")
    ]
    with pytest.raises(Conflict):
        commands.move(actor=Storekeeper(), now=clock.now(), moves=moves)
    assert level(depot) == 2
    assert Movement.objects.count() == 1


def test_what_is_sent_twice_is_booked_once(world, depot, van):
    lies(world.ines.depot, "door-roller", 5)
    how = Circumstances(key=uuid.uuid4())
    first, again = book(depot, van, 2, how=how), book(depot, van, 2, how=how)
    assert [row.pk for row in first] == [row.pk for row in again]
    assert level(van) == 2


def test_a_company_may_let_levels_go_below_zero(world, depot, van):
    book(depot, van, 2, how=Circumstances(below_zero=True))
    assert (level(depot), level(van)) == (-2, 2)
    assert [row.quantity for row in commands.below_zero()] == [-2]


def test_a_place_or_a_part_that_is_not_there_is_said(world, depot, van):
    with pytest.raises(NotFound, match="no such part"):
        commands.move(
            actor=Storekeeper(), now=clock.now(),
            moves=[Move(part=9999, quantity=1, source=depot.pk, target=van.pk, reason=MoveReason.TRANSFER)],
        )  # fmt: skip
    with pytest.raises(Rejected, match="A use does not go from a depot to a van"):
        book(depot, van, reason=MoveReason.USE)


# --- pieces, batches, costs, what is built in ------------------------------------------------------------


def tracked(tracking, name="Door drive", **more):
    fields = PartFields(name=name, tracking=tracking, **more)
    return commands.put_part(actor=Storekeeper(), now=clock.now(), fields=fields)


def test_a_piece_is_in_one_place_at_a_time(world, supplier, depot, van):
    code = tracked(Tracking.SERIAL).code
    book(supplier, depot, 2, code=code, reason=MoveReason.RECEIPT, serials=("D1", "D2"))
    with pytest.raises(Conflict, match="D1 is at Northlock already"):
        book(supplier, depot, 1, code=code, reason=MoveReason.RECEIPT, serials=("D1",))
    book(depot, van, 1, code=code, serials=("D1",))
    with pytest.raises(Conflict, match="D1 is at Van of Ines Falk, not at Northlock"):
        book(depot, van, 1, code=code, serials=("D1",))
    with pytest.raises(Rejected, match="1 serial numbers are needed"):
        book(depot, van, 1, code=code)
    assert {row.serial: row.place_id for row in Piece.objects.all()} == {"D1": van.pk, "D2": depot.pk}
    assert (level(depot, code), level(van, code)) == (1, 1)


def test_batches_are_kept_apart(world, supplier, depot, van):
    code = tracked(Tracking.BATCH, "Brake oil").code
    book(supplier, depot, 3, code=code, reason=MoveReason.RECEIPT, batch="6")
    book(supplier, depot, 2, code=code, reason=MoveReason.RECEIPT, batch="7")
    with pytest.raises(Rejected, match=r"There are 2 × Brake oil of batch 7 there, 3 wanted"):
        book(depot, van, 3, code=code, batch="7")
    book(depot, van, 2, code=code, batch="7")
    assert dict(Lot.objects.filter(place=depot).values_list("batch", "quantity")) == {"6": 3, "7": 0}


def test_the_cost_follows_what_was_paid_and_so_does_the_price_list(world, supplier, depot):
    tax = TaxCode.objects.create(key="full", name="Full", category="standard", rates=[])
    item = Item.objects.create(key="drive", kind="part", wording="Drive", unit="C62", price=90_00, cost=1, tax=tax)
    made = tracked(Tracking.PLAIN, cost=40_00, item="drive")
    book(supplier, depot, 10, code=made.code, reason=MoveReason.RECEIPT, how=Circumstances(unit_costs={made.pk: 40_00}))
    book(supplier, depot, 5, code=made.code, reason=MoveReason.RECEIPT, how=Circumstances(unit_costs={made.pk: 70_00}))
    made.refresh_from_db()
    item.refresh_from_db()
    assert (made.cost, item.cost) == (50_00, 50_00)


def test_what_a_visit_builds_in_is_known_with_its_warranty_and_comes_out_again(world, supplier, van):
    made = tracked(Tracking.SERIAL, warranty_months=24)
    book(supplier, van, 1, code=made.code, reason=MoveReason.RECEIPT, serials=("D1",))
    visit = world.placed(10)
    site = commands.place_of_site(world.site.pk)
    how = Circumstances(visit_id=visit.pk, asset_id=world.asset.pk, happened_at=to_datetime(at(10)))
    book(van, site, 1, code=made.code, reason=MoveReason.USE, serials=("D1",), how=how)
    fitted = Fitted.objects.get()
    assert (fitted.serial, fitted.asset, fitted.visit, str(fitted.warranty_until)) == (
        "D1", world.asset, visit, "2028-11-23",
    )  # fmt: skip
    aside = commands.nobodys(PlaceKind.ASIDE)
    book(site, aside, 1, code=made.code, reason=MoveReason.DEFECT, serials=("D1",), how=Circumstances(note="hums"))
    fitted.refresh_from_db()
    assert (fitted.removed_because, fitted.removed_at is not None) == ("hums", True)
    assert Piece.objects.get().place == aside


def test_of_plain_parts_what_was_built_in_first_comes_out_first(world, van):
    lies(world.ines, "door-roller", 9)
    site = commands.place_of_site(world.site.pk)
    book(van, site, 2, reason=MoveReason.USE)
    book(van, site, 3, reason=MoveReason.USE)
    book(site, van, 3, reason=MoveReason.RETURN)
    rows = Fitted.objects.order_by("since", "id").values_list("quantity", "removed_at")
    assert sum(quantity for quantity, removed in rows if removed is None) == 2
    assert sum(quantity for quantity, removed in rows if removed is not None) == 3
    # An old part that never was on the books comes back all the same.
    book(site, van, 9, reason=MoveReason.RETURN)
    assert level(van) == 9 - 5 + 3 + 9


# --- the law, however it comes about ----------------------------------------------------------------------

ways = st.lists(st.tuples(st.sampled_from(["in", "out", "back", "use", "count"]), st.integers(1, 4)), max_size=12)


@settings(max_examples=15, deadline=None, suppress_health_check=list(HealthCheck))
@given(ways=ways)
def test_whatever_is_done_levels_are_the_sum_of_their_movements(world, supplier, depot, van, ways):
    site = commands.place_of_site(world.site.pk)
    steps = {
        "in": (supplier, depot, MoveReason.RECEIPT), "out": (depot, van, MoveReason.TRANSFER),
        "back": (van, depot, MoveReason.TRANSFER), "use": (van, site, MoveReason.USE),
    }  # fmt: skip
    with transaction.atomic():
        for what, quantity in ways:
            done_or_refused(world, steps.get(what), quantity)
        assert commands.check_levels(now=clock.now()) == []
        assert not Level.objects.filter(quantity__lt=0).exists()
        transaction.set_rollback(True)


def done_or_refused(world, step, quantity):
    if step is None:
        lies(world.ines.depot, "door-roller", quantity)
        return
    source, target, reason = step
    has = level(source) or 0
    if source.what is PlaceKind.SUPPLIER or has >= quantity:
        book(source, target, quantity, reason=reason)
    else:
        with pytest.raises(Conflict), transaction.atomic():
            book(source, target, quantity, reason=reason)


def test_the_nightly_check_finds_a_level_that_lies_until_it_is_right_again(world, depot):
    lies(world.ines.depot, "door-roller", 5)
    assert commands.check_levels(now=clock.now()) == []
    Level.objects.update(quantity=6)
    [found] = commands.check_levels(now=clock.now())
    assert (found.kept, found.summed) == (6, 5)
    Level.objects.update(quantity=5)
    commands.check_levels(now=clock.now())
    assert not LevelAlarm.objects.exists()


@pytest.mark.django_db(transaction=True)
def test_twenty_who_take_the_last_five_get_five(world):
    depot, van = lies(world.ines.depot, "door-roller", 5), commands.place_of_van(world.ines)
    ready = Barrier(20)

    def take(_number):
        ready.wait()
        try:
            book(depot, van)
            return "got one"
        except Conflict as refused:
            return refused.code
        finally:
            connection.close()

    with ThreadPoolExecutor(20) as threads:
        came = list(threads.map(take, range(20)))
    assert sorted(came) == ["got one"] * 5 + ["too_few"] * 15
    assert (level(depot), level(van)) == (0, 5)
    assert commands.check_levels(now=clock.now()) == []


@pytest.mark.django_db(transaction=True)
def test_two_who_cross_each_other_do_not_wait_for_ever(world):
    depot, van = lies(world.ines.depot, "door-roller", 50), lies(world.ines, "door-roller", 50)
    ready = Barrier(8)

    def to_and_fro(number):
        ready.wait()
        try:
            for _turn in range(5):
                book(depot, van) if number % 2 else book(van, depot)
        finally:
            connection.close()

    with ThreadPoolExecutor(8) as threads:
        list(threads.map(to_and_fro, range(8)))
    assert (level(depot), level(van)) == (50, 50)
    assert commands.check_levels(now=clock.now()) == []


@pytest.mark.django_db(transaction=True)
def test_who_is_killed_half_way_leaves_nothing_half_booked(world):
    """The connection of a booking is cut off by the server between its two ends."""
    depot, van = lies(world.ines.depot, "door-roller", 5), commands.place_of_van(world.ines)

    def half():
        try:
            with transaction.atomic():
                book(depot, van, 2)
                with connection.cursor() as cursor:
                    cursor.execute("SELECT pg_terminate_backend(pg_backend_pid())")
        finally:
            connection.close()

    with ThreadPoolExecutor(1) as threads, pytest.raises(Exception, match="terminat"):
        threads.submit(half).result()
    assert (level(depot), level(van)) == (5, None)
    assert commands.check_levels(now=clock.now()) == []

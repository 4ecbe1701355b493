"""Suppliers, parts and levels from files, and out again."""

import pytest

from apps.stock.models import Level, Movement, Part, Supplier
from tests.apps.set_up.test_files import admin, bring  # noqa: F401 - fixtures
from tests.apps.set_up.test_price_files import becomes

SUPPLIERS = "name,email,days\nHarbour Supplies,orders@harbour.example,4\n"
PARTS = "name,number,supplier,cost,tracking,fits,warranty_months\n"
BELT = 'Drive belt,B-12,Harbour Supplies,18.40,plain,"Norrvik T4, Aldra 2",12\n'
LEVELS = "place,part,shelf,least,target,quantity\n"


@pytest.fixture
def suppliers(world, bring):  # noqa: F811
    assert becomes(bring("suppliers", SUPPLIERS, sure=True)) == ["new"]


@pytest.fixture
def belt(suppliers, bring):  # noqa: F811
    assert becomes(bring("parts", PARTS + BELT, sure=True)) == ["new"]
    return Part.objects.get(number="B-12")


def test_a_supplier_keeps_what_the_file_does_not_have(suppliers, bring):  # noqa: F811
    assert becomes(bring("suppliers", SUPPLIERS, sure=True)) == ["same"]
    assert becomes(bring("suppliers", "name,phone\nharbour supplies,+351 9\n", sure=True)) == ["change"]
    [supplier] = Supplier.objects.all()
    assert (supplier.name, supplier.phone, supplier.days) == ("Harbour Supplies", "+351 9", 4)


def test_parts_are_previewed_and_then_brought_in_as_previewed(suppliers, bring):  # noqa: F811
    text = f"{PARTS}{BELT}Seal,,Harbour Supplies,,batch,,\n"
    previewed = bring("parts", text).json()["rows"]
    assert not Part.objects.filter(number="B-12").exists()
    assert bring("parts", text, sure=True).json()["rows"] == previewed
    belt, seal = Part.objects.filter(name__in=["Drive belt", "Seal"]).order_by("name")
    assert (belt.cost, belt.fits, belt.warranty_months) == (1840, ["Aldra 2", "Norrvik T4"], 12)
    assert belt.supplier.name == "Harbour Supplies"
    assert seal.number
    assert seal.tracking == "batch"
    assert becomes(bring("parts", text, sure=True)) == ["same", "same"]


def test_a_part_is_known_by_its_number_and_takes_its_new_name(belt, bring):  # noqa: F811
    assert becomes(bring("parts", "name,number\nDrive belt 12 mm,b-12\n", sure=True)) == ["change"]
    belt.refresh_from_db()
    assert (belt.name, belt.cost) == ("Drive belt 12 mm", 1840)


@pytest.mark.parametrize(
    ("line", "words"),
    [
        ("Belt,C-1,Nobody,1,plain,,", "no supplier"), ("Belt,C-1,,x,plain,,", "no amount"),
        ("Belt,C-1,,1,loose,,", "none of"), ("Drive belt,C-1,,1,plain,,", "has the number B-12"),
        ("Belt,C-1,,1,plain,,soon", "whole number"),
    ],
)  # fmt: skip
def test_a_line_of_parts_that_cannot_be_says_why(belt, bring, line, words):  # noqa: F811
    count = Part.objects.count()
    [row] = bring("parts", f"{PARTS}{line}\n", sure=True).json()["rows"]
    assert row["becomes"] == "refused"
    assert words in " ".join(row["problems"])
    assert Part.objects.count() == count


def test_levels_are_counted_by_a_movement(belt, bring):  # noqa: F811
    text = f"{LEVELS}Northlock,B-12,C 4,4,10,7\n"
    assert becomes(bring("levels", text)) == ["new"]
    assert not Level.objects.filter(part=belt).exists()
    assert becomes(bring("levels", text, sure=True)) == ["new"]
    level = Level.objects.get(part=belt)
    assert (level.place.name, level.shelf, level.least, level.target, level.quantity) == ("Northlock", "C 4", 4, 10, 7)
    assert [(move.quantity, move.reason) for move in Movement.objects.filter(part=belt)] == [(7, "count")]
    assert becomes(bring("levels", text, sure=True)) == ["same"]
    assert becomes(bring("levels", "place,part,quantity\nnorthlock,drive belt,5\n", sure=True)) == ["change"]
    level.refresh_from_db()
    assert (level.quantity, level.least) == (5, 4)


@pytest.mark.parametrize(
    ("line", "words"),
    [
        ("Atlantis,B-12,,,,1", "no depot"), ("Northlock,Nothing,,,,1", "no part"),
        ("Northlock,B-12,,5,,1", "both"), ("Northlock,B-12,,5,3,", "not below"),
    ],
)  # fmt: skip
def test_a_line_of_levels_that_cannot_be_leaves_nothing(belt, bring, line, words):  # noqa: F811
    [row] = bring("levels", f"{LEVELS}{line}\n", sure=True).json()["rows"]
    assert row["becomes"] == "refused"
    assert words in " ".join(row["problems"])
    assert not Level.objects.filter(part=belt).exists()
    assert not Movement.objects.filter(part=belt).exists()


def test_what_goes_out_comes_in_as_it_is(belt, bring, admin):  # noqa: F811
    bring("levels", f"{LEVELS}Northlock,B-12,C 4,4,10,7\n", sure=True)
    for kind in ("suppliers", "parts", "levels"):
        answer = admin.client.get(f"/api/v1/set-up/files/{kind}")
        text = b"".join(answer).decode("utf-8-sig")
        assert len(text.splitlines()) > 1
        assert set(becomes(bring(kind, text, sure=True))) <= {"same", "change"}
        assert set(becomes(bring(kind, text, sure=True))) == {"same"}

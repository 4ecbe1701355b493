"""Tax codes and the price list from files."""

from datetime import date

import pytest

from apps.pricing.models import Charging, Item, NamedDiscount, Price, PriceList, TaxCode
from tests.apps.set_up.test_files import admin, bring  # noqa: F401 - fixtures

TAXES = "name,category,percent,from_day,reason\nFull rate,standard,23,2026-01-01,\nFull rate,standard,24,2027-01-01,\n"
ITEMS = "kind,wording,unit,price,cost,labour_hours,tax\n"
HOUR = "labour,Hour of a fitter,hour,58.00,31.50,,Full rate\n"


def becomes(answer):
    return [row["becomes"] for row in answer.json()["rows"]]


@pytest.fixture
def taxes(bring):  # noqa: F811
    assert becomes(bring("tax-codes", TAXES, sure=True)) == ["new", "change"]


def test_a_tax_code_has_a_line_for_each_rate(world, taxes, bring):  # noqa: F811
    [code] = TaxCode.objects.all()
    assert [rate["percent"] for rate in code.rates] == ["23", "24"]
    assert becomes(bring("tax-codes", TAXES, sure=True)) == ["same", "same"]


def test_items_are_previewed_and_then_brought_in_as_previewed(world, taxes, bring):  # noqa: F811
    text = ITEMS + HOUR + "part,Door drive,,480,,,Full rate\nfixed price,Check,,140,,1.25,full-rate\n"
    previewed = bring("items", text).json()["rows"]
    assert not Item.objects.exists()
    assert bring("items", text, sure=True).json()["rows"] == previewed
    hour, drive, check = Item.objects.order_by("pk")
    assert (hour.unit, hour.price, hour.cost, hour.tax.name) == ("HUR", 5800, 3150, "Full rate")
    assert (drive.unit, drive.price, drive.cost) == ("C62", 48000, None)
    assert check.effort == 1250
    assert becomes(bring("items", text, sure=True)) == ["same"] * 3


def test_what_a_file_does_not_have_stays(world, taxes, bring):  # noqa: F811
    bring("items", ITEMS + HOUR, sure=True)
    dearer = "kind,wording,price,tax\nlabour,hour of a fitter,60,Full rate\n"
    assert becomes(bring("items", dearer, sure=True)) == ["change"]
    [item] = Item.objects.all()
    assert (item.wording, item.price, item.cost, item.unit) == ("Hour of a fitter", 6000, 3150, "HUR")


@pytest.mark.parametrize(
    ("line", "words"),
    [
        ("labour,X,hour,5x,,,Full rate", "no amount"), ("labour,X,hour,58,,,Half rate", "no tax code"),
        ("gift,X,hour,58,,,Full rate", "none of"), ("labour,X,furlong,58,,,Full rate", "no unit"),
        ("labour,X,hour,-5,,,Full rate", "negative"), ("labour,X,hour,5,,many,Full rate", "hours"),
    ],
)  # fmt: skip
def test_a_line_that_cannot_be_is_left_out_and_says_why(world, taxes, bring, line, words):  # noqa: F811
    rows = bring("items", f"{ITEMS}{HOUR}{line}\n", sure=True).json()["rows"]
    assert [row["becomes"] for row in rows] == ["new", "refused"]
    assert words in " ".join(rows[1]["problems"])
    assert [item.wording for item in Item.objects.all()] == ["Hour of a fitter"]


LISTED = "list,item,price,from_day,least\n"


def test_prices_of_lists_come_from_files_and_go_out_again(world, taxes, bring):  # noqa: F811
    bring("items", ITEMS + HOUR, sure=True)
    text = f"{LISTED}Harbour,Hour of a fitter,54.50,2026-12-01,\nHarbour,Hour of a fitter,52.00,2026-12-01,8\n"
    previewed = bring("list-prices", text).json()["rows"]
    assert [row["becomes"] for row in previewed] == ["new", "new"]
    assert not PriceList.objects.exists()
    assert bring("list-prices", text, sure=True).json()["rows"] == previewed
    assert becomes(bring("list-prices", text, sure=True)) == ["same", "same"]
    dearer = text.replace("54.50", "55.00").replace("2026-12-01,\n", "2027-01-01,\n")
    assert becomes(bring("list-prices", dearer, sure=True)) == ["change", "same"]
    [first, *_others] = Price.objects.order_by("least", "valid_from")
    assert (first.price, first.valid_until) == (5450, date(2027, 1, 1))


@pytest.mark.parametrize(
    ("line", "words"),
    [
        ("Harbour,Nothing,1,,", "not on the price list"), ("Harbour,Hour of a fitter,x,,", "no amount"),
        ("Harbour,Hour of a fitter,5,2020-01-01,", "begin today or later"), (",Hour of a fitter,5,,", "list"),
    ],
)  # fmt: skip
def test_a_price_that_cannot_be_is_refused_in_its_row(world, taxes, bring, line, words):  # noqa: F811
    bring("items", ITEMS + HOUR, sure=True)
    [row] = bring("list-prices", f"{LISTED}{line}\n", sure=True).json()["rows"]
    assert row["becomes"] == "refused"
    assert words in " ".join(row["problems"])
    assert not Price.objects.exists()


def test_discounts_come_from_files(world, taxes, bring):  # noqa: F811
    text = "name,percent,amount,until_day,times\nRegular,5,,,\nFirst order,,25.00,2027-03-31,20\nBoth,5,5,,\n"
    assert becomes(bring("discounts", text, sure=True)) == ["new", "new", "refused"]
    assert becomes(bring("discounts", text, sure=True)) == ["same", "same", "refused"]
    assert becomes(bring("discounts", text.replace("Regular,5", "Regular,7.5"), sure=True)) == [
        "change", "same", "refused",
    ]  # fmt: skip
    assert NamedDiscount.objects.get(name="First order").amount == 2500


@pytest.fixture
def hours(bring, taxes):  # noqa: F811
    bring("items", f"{ITEMS}{HOUR}labour,Hour of a rescuer,hour,74,,,Full rate\npart,Drive,,9,,,Full rate\n", sure=True)


def as_file(api, kind):
    """As it is given out, without the mark at its beginning."""
    return b"".join(api.client.get(f"/api/v1/set-up/files/{kind}").streaming_content).decode()[1:]


def test_rates_by_skill_come_from_files_and_go_out_again(world, hours, admin, bring):  # noqa: F811
    text = "skill,item\n,Hour of a fitter\nRescue,hour of a rescuer\nJuggling,Hour of a fitter\n,Drive\n,Nothing\n"
    previewed = bring("rates", text).json()["rows"]
    assert [row["becomes"] for row in previewed] == ["new", "new", "refused", "refused", "refused"]
    assert not Charging.objects.exists()
    assert bring("rates", text, sure=True).json()["rows"] == previewed
    rules = Charging.objects.get()
    assert (rules.labour_item, list(rules.skill_items.values())) == ("hour-of-a-fitter", ["hour-of-a-rescuer"])
    given = as_file(admin, "rates")
    assert given.splitlines() == ["skill,item", ",Hour of a fitter", "Rescue,Hour of a rescuer"]
    assert becomes(bring("rates", given, sure=True)) == ["same", "same"]
    assert becomes(bring("rates", "skill,item\n,Hour of a rescuer\n", sure=True)) == ["change"]


def test_surcharges_come_from_files_and_go_out_again(world, admin, bring):  # noqa: F811
    heads = "name,percent,mon,tue,wed,thu,fri,sat,sun,holidays\n"
    text = (
        f"{heads}Night,50,18:00-22:00,,,,,,,\nSunday,100,,,,,,,00:00-24:00,yes\nOdd,20,late,,,,,,,\nNever,20,,,,,,,,\n"
    )
    previewed = bring("surcharges", text).json()["rows"]
    assert [row["becomes"] for row in previewed] == ["new", "new", "refused", "refused"]
    assert bring("surcharges", text, sure=True).json()["rows"] == previewed
    night, sunday = Charging.objects.get().surcharges
    assert (night["week"][0], sunday["week"][6], sunday["holidays"]) == ("18:00-22:00", "00:00-24:00", True)
    given = as_file(admin, "surcharges")
    assert becomes(bring("surcharges", given, sure=True)) == ["same", "same"]
    assert becomes(bring("surcharges", given.replace("Night,50", "Night,60"), sure=True)) == ["change", "same"]

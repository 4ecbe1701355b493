"""Files of customers: every cell is checked, and a file that is none says so."""

import pytest

from core.basics import phone_key
from core.customers import BadFile, read_rows, read_vcards


def test_a_semicolon_file_with_a_stranger_column():
    rows, unknown = read_rows("customers", "name;phone;shoe size\nMarram Foods;296 1;44\n;;\n")
    assert [row.cells for row in rows] == [{"name": "Marram Foods", "phone": "296 1", "lon": None, "lat": None,
                                           "installed_on": None, "warranty_until": None}]  # fmt: skip
    assert unknown == ["shoe size"]


@pytest.mark.parametrize(
    ("kind", "text", "says"),
    [
        ("sites", "customer,address,lon,lat\nA,B,200,1\n", "lon must lie between -180 and 180"),
        ("sites", "customer,address,lon,lat\nA,B,x,1\n", "lon “x” is no number"),
        ("sites", "customer,address,lon,lat\nA,B,,1\n", "lon and lat belong together"),
        ("assets", "customer,site,kind,installed_on\nA,B,C,1.5.2020\n", "installed_on “1.5.2020” is no date"),
        ("customers", "name,needs_po_number\nA,maybe\n", "needs_po_number is yes or no"),
        ("customers", f"name\n{'x' * 200}\n", "longer than 160"),
    ],
)
def test_a_bad_cell_is_said(kind, text, says):
    [row] = read_rows(kind, text)[0]
    assert any(says in problem for problem in row.problems)


def test_a_file_without_the_needed_column_is_refused():
    with pytest.raises(BadFile, match="must name the column customer"):
        read_rows("sites", "name,address\na,b\n")


def test_cards_become_contacts():
    lines = ("BEGIN:VCARD", "VERSION:3.0", "FN:Edda Holm", "N:Holm;Edda;;;", "ORG:Marram Foods", "EMAIL:e@m.example")
    [row] = read_vcards("\r\n".join([*lines, "END:VCARD", ""]))[0]
    found = (row.cells["name"], row.cells["customer"], row.cells["email"])
    assert found == ("Edda Holm", "Marram Foods", "e@m.example")


@pytest.mark.parametrize("written", ["+351 296 555 100", "00351296555100", "296 555 100", "(296) 555-100"])
def test_a_phone_is_the_same_however_it_is_written(written):
    assert phone_key(written, "PT") == "+351296555100"


@pytest.mark.parametrize(("written", "key"), [("call me", ""), ("12", "12"), ("", "")])
def test_what_is_no_phone_number_stays_digits(written, key):
    assert phone_key(written, "PT") == key

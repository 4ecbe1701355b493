"""Files of customers: every cell is checked, and a file that is none says so."""

import pytest

from core.basics import phone_key
from core.basics.tables import decode, plain_cell, read_day, safe_cell
from core.customers import MissingColumns, guess, headings_of, read_vcards
from core.customers import read_rows as read_with


def read_rows(kind, text, extra=(), remembered=None):
    """With the columns as they are guessed."""
    return read_with(kind, text, guess(kind, headings_of(text), extra=extra, remembered=remembered or {}))


def test_a_semicolon_file_with_a_stranger_column():
    text = "name;phone;shoe size\nMarram Foods;296 1;44\n;;\n"
    rows = read_rows("customers", text)
    assert [row.cells for row in rows] == [{"name": "Marram Foods", "phone": "296 1", "lon": None, "lat": None,
                                           "installed_on": None, "warranty_until": None}]  # fmt: skip
    assert guess("customers", headings_of(text), extra=(), remembered={})["shoe size"] == ""


@pytest.mark.parametrize(
    ("kind", "text", "cells"),
    [
        ("customers", "Company Name;Telephone;E-Mail\nMarram;296 1;m@x.example\n", ("Marram", "296 1", "m@x.example")),
        ("customers", "name\tPhone No.\temail\nMarram\t296 1\tm@x.example\n", ("Marram", "296 1", "m@x.example")),
        ("contacts", "Customer,Full name,Mobile\nMarram,Edda,296 2\n", ("Edda", "296 2", None)),
    ],
)
def test_headings_of_ones_own_and_tabs_are_understood(kind, text, cells):
    [row] = read_rows(kind, text)
    assert tuple(row.cells.get(name) for name in ("name", "phone", "email")) == cells


def test_what_somebody_decided_counts_before_any_guess_and_no_column_is_meant_twice():
    headings = ["Firm", "Company", "Name"]
    assert guess("customers", headings, extra=(), remembered={}) == {"Firm": "", "Company": "name", "Name": ""}
    decided = {"firm": "name", "company": ""}
    assert guess("customers", headings, extra=(), remembered=decided) == {"Firm": "name", "Company": "", "Name": ""}


@pytest.mark.parametrize("written", ["2026-11-23", "23.11.2026", "23/11/2026", "23-11-2026", " 2026-11-23 "])
def test_a_day_is_the_same_however_it_is_written(written):
    assert read_day(written).isoformat() == "2026-11-23"


@pytest.mark.parametrize("written", ["", "soon", "31.2.2026", "2026", "1.5.20"])
def test_what_is_no_day_is_none(written):
    assert read_day(written) is None


@pytest.mark.parametrize("name", ["utf-8", "utf-8-sig", "utf-16", "utf-16-le", "utf-16-be", "cp1252"])
def test_a_spreadsheet_s_character_set_is_found_out(name):
    text = "name,phone\nTür & Söhne,1\n"
    assert decode(text.encode(name)).lstrip("\ufeff") == text


@pytest.mark.parametrize("cell", ["=1+1", "@x", "+x", "-2+3+cmd|' /C calc'!A0", "\tx", "+SUM(A1)"])
def test_a_formula_goes_out_as_text_and_comes_in_as_it_was(cell):
    assert safe_cell(cell) == f"'{cell}"
    assert plain_cell(safe_cell(cell)) == cell


@pytest.mark.parametrize("cell", ["+351 296 555 100", "-24.6", "plain", "'quoted'", "+1 (296) 555-100"])
def test_numbers_and_words_go_out_as_they_are(cell):
    assert safe_cell(cell) == plain_cell(cell) == cell


@pytest.mark.parametrize(
    ("kind", "text", "says"),
    [
        ("sites", "customer,address,lon,lat\nA,B,200,1\n", "lon must lie between -180 and 180"),
        ("sites", "customer,address,lon,lat\nA,B,x,1\n", "lon “x” is no number"),
        ("sites", "customer,address,lon,lat\nA,B,,1\n", "lon and lat belong together"),
        ("assets", "customer,site,kind,installed_on\nA,B,C,1.5.20\n", "installed_on “1.5.20” is no date"),
        ("customers", "name,needs_po_number\nA,maybe\n", "needs_po_number is yes or no"),
        ("customers", f"name\n{'x' * 200}\n", "longer than 160"),
    ],
)
def test_a_bad_cell_is_said(kind, text, says):
    [row] = read_rows(kind, text)
    assert any(says in problem for problem in row.problems)


def test_a_file_without_the_needed_column_is_refused():
    with pytest.raises(MissingColumns, match=r"Say which column is customer; the first line names name, address\."):
        read_rows("sites", "name,address\na,b\n")


def test_cards_become_contacts():
    lines = ("BEGIN:VCARD", "VERSION:3.0", "FN:Edda Holm", "N:Holm;Edda;;;", "ORG:Marram Foods", "EMAIL:e@m.example")
    [row] = read_vcards("\r\n".join([*lines, "END:VCARD", ""]))
    found = (row.cells["name"], row.cells["customer"], row.cells["email"])
    assert found == ("Edda Holm", "Marram Foods", "e@m.example")


@pytest.mark.parametrize("written", ["+351 296 555 100", "00351296555100", "296 555 100", "(296) 555-100"])
def test_a_phone_is_the_same_however_it_is_written(written):
    assert phone_key(written, "PT") == "+351296555100"


@pytest.mark.parametrize(("written", "key"), [("call me", ""), ("12", "12"), ("", "")])
def test_what_is_no_phone_number_stays_digits(written, key):
    assert phone_key(written, "PT") == key

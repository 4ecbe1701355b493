"""Reading a file of open work."""

from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from core.basics import Interval, Place
from core.basics.tables import decode
from core.open_work.reading import BadFile, read_open_work

TZ = ZoneInfo("Atlantic/Azores")  # one hour behind UTC in November


def one(header, line):
    [row] = read_open_work(f"{header}\n{line}\n", TZ)
    return row


def moment(day, hour, minute=0):
    return int((datetime(2026, 11, day, hour, minute, tzinfo=UTC) + timedelta(hours=1)).timestamp())


def test_all_columns():
    header = (
        "customer,site,address,lon,lat,phone,job_type,description,priority,duration,promise_from,promise_to,due,skills"
    )
    line = (
        'Seagate Stores,Hall 2,Mill Lane 3,-24.6,47.2,+351 296 1,Noisy door,"Scrapes, loudly",4,45,'
        "2026-11-24 10:00,2026-11-24 12:00,30/11/2026,Door drives:2;Rigging"
    )
    row = one(header, line)
    assert row.problems == ()
    assert row.description == "Scrapes, loudly"
    assert row.place == Place(-24.6, 47.2)
    assert row.duration_seconds == 2700
    assert row.promise == Interval(start=moment(24, 10), end=moment(24, 12))
    assert row.due == moment(30, 23, 59)
    assert row.needs == {"Door drives": 2, "Rigging": 1}


@pytest.mark.parametrize(
    "text", ["2026-11-24 10:00", "2026-11-24T10:00", "24/11/2026 10:00", "24.11.2026 10:00", "2026-11-24T11:00Z"]
)
def test_ways_to_write_a_time(text):
    row = one("customer;description;promise_from;promise_to", f"A;B;{text};12:00")
    assert row.problems == ()
    assert row.promise.start == moment(24, 10)
    assert row.promise.end == moment(24, 12)


@pytest.mark.parametrize(
    ("column", "value", "problem"),
    [
        ("priority", "9", "priority must be a whole number from 1 to 5, not “9”"),
        ("duration", "soon", "duration must be a whole number from 1 to 20160, not “soon”"),
        ("due", "31/02/2026", "due “31/02/2026” is not a date: use 2026-11-24 10:00 or 24/11/2026 10:00"),
        ("due", "2026-11-24 or so", "due “2026-11-24 or so” is not a date: use 2026-11-24 10:00 or 24/11/2026 10:00"),
        ("promise_from", "2026-11-24 10:00", "a promise needs both promise_from and promise_to"),
        ("lat", "47.2", "coordinates “”, “47.2” are not a longitude and a latitude"),
        ("skills", "Rigging:9", "skill level of Rigging must be 1 to 5, not “9”"),
    ],
)
def test_what_is_wrong_is_said(column, value, problem):
    assert one(f"customer;description;{column}", f"A;B;{value}").problems == (problem,)


def test_a_promise_that_ends_before_it_begins():
    row = one("customer;description;promise_from;promise_to", "A;B;2026-11-24 12:00;10:00")
    assert row.problems == ("promise_to is not after promise_from",)


def test_all_problems_of_a_row_are_said_at_once():
    assert one("customer,description,priority", ",,x").problems == (
        "customer is empty",
        "description is empty",
        "priority must be a whole number from 1 to 5, not “x”",
    )


def test_encodings():
    text = "customer,description\nVágar Höll,Tür klemmt\n"
    for encoding in ("utf-8", "utf-8-sig", "latin-1"):
        [row] = read_open_work(decode(text.encode(encoding)), TZ)
        assert (row.customer, row.description) == ("Vágar Höll", "Tür klemmt")


def test_line_numbers_are_those_of_the_file_and_blank_lines_are_passed_over():
    rows = read_open_work("customer,description\n\nA,1\n,,\nB,2\n", TZ)
    assert [(row.line, row.customer) for row in rows] == [(3, "A"), (5, "B")]


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("customer,description,prio\nA,B,1\n", "Unknown column: prio"),
        ("", "empty"),
        ("name,what\nA,B\n", "missing: customer, description"),
        ("a\x00b", "not a text file"),
    ],
)
def test_a_file_that_is_none_is_refused_as_a_whole(text, said):
    with pytest.raises(BadFile, match=said):
        read_open_work(text, TZ)


@settings(max_examples=200)
@given(st.binary(max_size=400))
def test_no_file_crashes_the_reader(data):
    try:
        rows = read_open_work("customer,description,due,promise_from,promise_to,skills,lon,lat\n" + decode(data), TZ)
    except BadFile:
        return
    assert all(row.line >= 2 for row in rows)

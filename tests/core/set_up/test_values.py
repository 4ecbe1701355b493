"""What the cells of set-up files say."""

from datetime import date, time
from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from core.basics.tables import BadFile
from core.set_up import COLUMNS, EXAMPLES, SetUpKind, days_in_words, read_set_up, values
from core.set_up.files import columns_of


@pytest.mark.parametrize(
    ("read", "text", "value"),
    [
        (values.clock_time, "8", time(8)),
        (values.clock_time, "0830", time(8, 30)),
        (values.clock_time, "8.30", time(8, 30)),
        (values.clock_time, "24:00", time(0)),
        (values.clock_time, "08:30:00", time(8, 30)),
        (values.weekdays, "Mon-Fri", (0, 1, 2, 3, 4)),
        (values.weekdays, "sat, SUNDAY", (5, 6)),
        (values.weekdays, "Mo – We", (0, 1, 2)),
        (values.levels, "Door drives 3, Rescue", {"Door drives": 3, "Rescue": 1}),
        (values.levels, "Zone 2 work: 4", {"Zone 2 work": 4}),
        (values.amount, "41,5", Decimal("41.50")),
        (values.yes_no, "X", True),
        (values.day, "23.11.2026", date(2026, 11, 23)),
        (values.degrees, "-8,61", -8.61),
    ],
)
def test_what_people_write_is_understood(read, text, value):
    assert read(text) == value


@pytest.mark.parametrize(
    ("read", "text"),
    [
        (values.clock_time, "25"), (values.clock_time, "8:60"), (values.clock_time, "24:30"),
        (values.clock_time, "noon"), (values.weekdays, "Fri-Mon"), (values.weekdays, "M"),
        (values.weekdays, "Mon-Wed-Fri"), (values.weekdays, "Xyz"),
        (values.levels, "Rescue 6"), (values.levels, "Rescue 0"), (values.amount, "-1"), (values.amount, "1.234"),
        (values.amount, "NaN"), (values.amount, "a lot"), (values.yes_no, "maybe"), (values.day, "31.2.2026"),
        (values.degrees, "181"), (values.whole, "-3"),
    ],
)  # fmt: skip
def test_what_cannot_be_is_said(read, text):
    with pytest.raises(ValueError, match=r"“|:"):
        read(text)


@given(st.sets(st.integers(0, 6), min_size=1))
def test_days_are_written_as_they_are_read(days):
    assert values.weekdays(days_in_words(sorted(days))) == tuple(sorted(days))


@pytest.mark.parametrize("kind", SetUpKind)
def test_every_example_can_be_read(kind):
    columns = columns_of(kind)
    text = "\n".join(
        [",".join(columns), *(",".join(f'"{row.get(name, "")}"' for name in columns) for row in EXAMPLES[kind])]
    )
    rows, left_out = read_set_up(kind, text)
    assert ([row.problems for row in rows], left_out) == ([[]] * len(EXAMPLES[kind]), [])
    assert {name for row in EXAMPLES[kind] for name in row} <= set(columns)


def test_other_headings_are_understood_and_the_rest_is_named():
    rows, left_out = read_set_up(SetUpKind.PEOPLE, "Full name;Depot;Shoe size\nRui Vale;North yard;43")
    assert rows[0].cells == {"name": "Rui Vale", "depot": "North yard"}
    assert left_out == ["Shoe size"]


def test_a_row_says_all_that_is_wrong_with_it():
    [row], _left_out = read_set_up(SetUpKind.SHIFTS, "technician,days,start,end\n,Mon-Fri,8,late")
    assert row.problems == ["technician is empty", "end: “late” is no time like 8:30"]


def test_a_file_without_a_needed_column_is_refused():
    with pytest.raises(BadFile, match="depot"):
        read_set_up(SetUpKind.PEOPLE, "name\nRui Vale")
    assert "depot*" in COLUMNS[SetUpKind.PEOPLE]

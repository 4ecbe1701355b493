"""What happened here lately: what matters most first, and nothing made up."""

from hypothesis import given
from hypothesis import strategies as st

from core.reports import PastVisit, Readings, lately


def past(order_id, at, **more):
    return PastVisit(order_id=order_id, at=at, technician="Ines Falk", title="Monthly upkeep", **more)


def gaps(*values, most=8.0):
    rows = [(100 * number, value, number) for number, value in enumerate(values)]
    return Readings(label="Door gap", unit="mm", least=2, most=most, values=rows)


def test_what_was_done_stands_with_who_and_which_parts_the_newest_first():
    lines = lately([past(2, 200, outcome="Cleaned.", parts=["Door roller"]), past(1, 100)], [])
    assert [line.words for line in lines] == [
        "Monthly upkeep, Ines Falk: Cleaned. Parts: Door roller.",
        "Monthly upkeep, Ines Falk",
    ]
    assert [line.order_id for line in lines] == [2, 1]


def test_what_the_last_visit_left_open_or_noted_comes_before_what_was_done():
    lines = lately([past(2, 200, left_open=["Test ride"], note="Gate is broken"), past(1, 100, left_open=["x"])], [])
    assert [line.words for line in lines][:2] == ["Left open last time: Test ride", "Ines Falk noted: Gate is broken"]
    assert lines[0].pressing
    assert not any("x" in line.words.split(": ")[-1] for line in lines)


def test_a_reading_out_of_its_bounds_is_the_first_line():
    [line, *_rest] = lately([past(9, 900, left_open=["Test ride"])], [gaps(4, 9)])
    assert line.words == "Door gap: 9 mm, at most 8 mm is right"
    assert (line.order_id, line.pressing) == (1, True)
    assert lately([], [gaps(4, 1.5)])[0].words == "Door gap: 1.5 mm, at least 2 mm is right"


def test_a_reading_that_drifts_towards_its_bound_is_told_before_it_is_there():
    [line] = lately([], [gaps(3, 4.1, 5.2, 6, 7.2)])
    assert line.words == "Door gap goes from 3 to 7.2 mm over 5 readings; at most 8 mm is right"


def test_what_only_wavers_or_has_far_to_go_is_not_told():
    assert lately([], [gaps(7.5, 7.1, 7.6, 7.0, 7.5)]) == ()
    assert lately([], [gaps(3, 3.2, 3.4, 3.6)]) == ()
    assert lately([], [gaps(5, 6.5, 7.9)]) == ()


@given(
    st.lists(st.builds(past, st.integers(1, 99), st.integers(1, 999), note=st.text(max_size=5)), max_size=9),
    st.lists(st.lists(st.floats(-50, 50), max_size=9).map(lambda values: gaps(*values)), max_size=4),
)
def test_there_are_at_most_five_and_each_names_its_source(visits, readings):
    lines = lately(visits, readings)
    assert len(lines) <= 5
    known = {visit.order_id for visit in visits} | {row[2] for one in readings for row in one.values}
    assert all(line.order_id in known for line in lines)

"""Company settings: explained, checked, with words that are filled in."""

from datetime import time

import pytest

from core.company import GROUPS, TEMPLATES, Settings, explained, fill_in, settings_from


def test_every_setting_is_explained_in_a_known_group():
    for name, shown in explained().items():
        assert shown.group in GROUPS, name
        assert len(shown.explanation) > 15, name
    assert set(TEMPLATES) <= set(explained())


@pytest.mark.parametrize(
    ("changes", "says"),
    [
        ({"order_number": "W"}, "needs {number}"),
        ({"order_number": "{number} {colour}"}, "{colour} is not known"),
        ({"message_sent": "Hello {technician"}, "is not known"),
        ({"message_sent": " "}, "write something"),
        ({"windows": ()}, "name at least one"),
        ({"windows": ("10:00-08:00",)}, "ends before it begins"),
        ({"windows": ("8-10",)}, "is not a span"),
        ({"week": ("",) * 7}, "at least one day is open"),
        ({"week": ("08:00-17:00",)}, "a week has seven days"),
        ({"offers_shown": 0}, "at least 1"),
        ({"offers_days": 15}, "at most 14"),
        ({"offers_shown": True}, "whole number"),
        ({"offers_on": 1}, "yes or no"),
        ({"sources": ("phone", "phone")}, "there twice"),
        ({"required": ("horoscope",)}, "cannot be chosen"),
        ({"phone_country": "XX"}, "no country"),
        ({f"weight_{name}": 0 for name in ("near", "driving", "soon", "rare", "load")}, "at least one weight"),
    ],
)
def test_what_cannot_be_is_refused_by_name(changes, says):
    with pytest.raises(ValueError, match=says.replace("{", r"\{").replace("}", r"\}")):
        Settings(**changes)


def test_stored_settings_keep_defaults_and_forget_what_is_gone():
    found = settings_from({"offers_shown": 7, "windows": ["08:00-12:00"], "colour_of_vans": "red"})
    assert (found.offers_shown, found.offers_days) == (7, Settings().offers_days)
    assert found.window_times() == [(time(8), time(12))]


def test_office_hours_by_weekday():
    assert Settings().hours_on(0) == (time(8), time(17))
    assert Settings().hours_on(6) is None


def test_words_are_filled_in_and_unknown_ones_stay():
    assert fill_in("{site}: {window} {x}", {"site": "Quay", "window": "at 8"}) == "Quay: at 8 {x}"

"""Reasons as data: every code has words, the words take what is given, and nothing else makes sentences of them."""

import json
import re
from string import Formatter
from zoneinfo import ZoneInfo

import pytest

from core.scheduling import Stop, judge
from core.scheduling.model.reasons import TEMPLATES, Code, about, begun, why
from tests.core.scheduling.random_worlds import a_problem

LISBON = ZoneInfo("Europe/Lisbon")
NOON = 1_795_521_600  # 24 November 2026, 12:00 UTC


def test_every_code_has_its_words():
    assert set(TEMPLATES) == set(Code)
    assert len(set(TEMPLATES.values())) == len(TEMPLATES)


@pytest.mark.parametrize("code", sorted(Code))
def test_words_come_from_what_is_given_alone(code):
    names = [(name, spec) for _text, name, spec, _conversion in Formatter().parse(TEMPLATES[code]) if name]
    given = {
        name: (NOON, NOON + 3600, NOON) if spec == "window" else why(Code.PINNED) if spec == "begun" else NOON
        for name, spec in names
    }
    words = str(why(code, LISBON, **given))
    assert "{" not in words
    assert words[0].isupper() or words[0].isdigit()
    for name, _spec in names:
        with pytest.raises(KeyError):
            str(why(code, LISBON, **{key: value for key, value in given.items() if key != name}))


def test_a_reason_of_somebody_else_keeps_the_reason_itself():
    late = why(Code.AFTER_DUE, late=1800)
    found = about("O-7 Seagate Hall", late)
    assert str(found) == "O-7 Seagate Hall: ends 30 min after it is due"
    assert found.as_json() == {
        "code": "about",
        "given": {"about": "O-7 Seagate Hall", "reason": {"code": "after_due", "given": {"late": 1800}}},
    }
    assert about("", late) is late


@pytest.mark.parametrize(
    ("sentence", "within"),
    [("Ends late", "ends late"), ("O-7 overlaps", "O-7 overlaps"), ("40 min late", "40 min late"), ("", "")],
)
def test_a_sentence_goes_on_in_small_letters_but_for_names(sentence, within):
    assert begun(sentence) == within


def test_a_window_of_another_day_names_it():
    same = why(Code.OPEN_ONLY, LISBON, hours=(NOON, NOON + 3600, NOON))
    other = why(Code.OPEN_ONLY, LISBON, hours=(NOON, NOON + 3600, NOON - 86_400))
    assert str(same) == "The site is open 12:00–13:00 only"
    assert str(other) == "The site is open Tue 24 Nov 12:00–13:00 only"


@pytest.mark.parametrize("seed", range(12))
def test_what_is_said_of_a_placement_is_plain_data_that_words_itself(seed):
    problem = a_problem(seed)
    for visit in problem.backlog:
        for day in problem.days:
            start = day.shift.hours.start if day.shift else NOON
            for reason in judge(day, Stop(visit=visit, start=start + 1800), problem.travel).reasons:
                assert re.match(r"[A-Z0-9]", reason.sentence)
                assert json.loads(json.dumps(reason.why.as_json()))["code"] == reason.why.code

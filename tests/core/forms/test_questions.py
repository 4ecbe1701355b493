"""Checklists and own fields: what is asked, what is wrong with an answer, what is still missing."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from core.forms import Question, asked, check_answers, questions_from, stored, unanswered

FORM = questions_from(
    [
        {"key": "wet", "label": "Is the pit wet?", "kind": "yes_no", "required": "to close"},
        {"key": "oil", "label": "Is it oil?", "kind": "yes_no", "shown_if": ["wet", True], "required": "to close"},
        {"key": "litres", "label": "How much?", "kind": "number", "least": 0.5, "most": 200, "unit": "l",
         "shown_if": ["oil", True], "required": "to close"},
        {"key": "cause", "label": "Cause", "kind": "choice", "choices": ["seal", "hose"], "required": "to create"},
        {"key": "done_on", "label": "Done on", "kind": "date"},
        {"key": "photo", "label": "Photo", "kind": "photo", "shown_if": ["cause", "hose"]},
    ]
)  # fmt: skip


def keys(answers):
    return [question.key for question in asked(FORM, answers)]


def test_what_hangs_on_an_answer_comes_up_with_it():
    assert keys({}) == ["wet", "cause", "done_on"]
    assert keys({"wet": True, "oil": True}) == ["wet", "oil", "litres", "cause", "done_on"]
    assert keys({"cause": "hose"}) == ["wet", "cause", "done_on", "photo"]


def test_a_hidden_question_hides_what_hangs_on_it():
    assert "litres" not in keys({"wet": False, "oil": True})


def test_only_what_comes_up_must_be_answered():
    assert [q.key for q in unanswered(FORM, {}, to="create")] == ["cause"]
    assert [q.key for q in unanswered(FORM, {"cause": "seal"}, to="close")] == ["wet"]
    assert [q.key for q in unanswered(FORM, {"cause": "seal", "wet": True}, to="close")] == ["oil"]
    assert unanswered(FORM, {"cause": "seal", "wet": False, "oil": True}, to="close") == []


@pytest.mark.parametrize(
    ("answers", "key", "says"),
    [
        ({"wet": True, "oil": True, "litres": 0.1}, "litres", "At least 0.5 l"),
        ({"wet": True, "oil": True, "litres": "many"}, "litres", "A number is wanted"),
        ({"wet": True, "oil": True, "litres": 201}, "litres", "At most 200 l"),
        ({"wet": "perhaps"}, "wet", "Yes or no"),
        ({"cause": "rust"}, "cause", "One of seal, hose"),
        ({"done_on": "tomorrow"}, "done_on", "A date is wanted"),
        ({"cause": "hose", "photo": "a picture"}, "photo", "A picture is wanted"),
        ({"colour": "red"}, "colour", "This question is not asked"),
    ],
)
def test_a_wrong_answer_is_said_at_its_question(answers, key, says):
    assert check_answers(FORM, answers)[1] == {key: says}


def test_answers_are_put_right_and_hidden_ones_left_out():
    clean, problems = check_answers(FORM, {"wet": False, "oil": True, "litres": "3", "cause": " seal ", "done_on": ""})
    assert (clean, problems) == ({"wet": False, "cause": "seal"}, {})
    clean, _ = check_answers(FORM, {"wet": True, "oil": True, "litres": "1,5"})
    assert clean["litres"] == 1.5


@pytest.mark.parametrize(
    ("row", "says"),
    [
        ({"key": "Big", "label": "x", "kind": "text"}, "is no key"),
        ({"key": "a", "label": " ", "kind": "text"}, "needs words"),
        ({"key": "a", "label": "x", "kind": "colour"}, "no question of the kind"),
        ({"key": "a", "label": "x", "kind": "choice", "choices": ["one", "one"]}, "at least two answers"),
        ({"key": "a", "label": "x", "kind": "number", "least": 2, "most": 1}, "the most is less"),
        ({"key": "a", "label": "x", "kind": "text", "required": "always"}, "required is one of"),
        ({"key": "a", "label": "x", "kind": "text", "shown_if": ["b", True]}, "not asked for before it"),
    ],
)
def test_a_question_that_cannot_be_is_refused(row, says):
    with pytest.raises(ValueError, match=says):
        questions_from([row])


def test_a_condition_names_an_answer_that_can_be_given():
    first = {"key": "a", "label": "Colour", "kind": "choice", "choices": ["red", "blue"]}
    with pytest.raises(ValueError, match="cannot have"):
        questions_from([first, {"key": "b", "label": "x", "kind": "text", "shown_if": ["a", "green"]}])
    with pytest.raises(ValueError, match="two questions have the key"):
        questions_from([first, first])
    text = {"key": "a", "label": "Name", "kind": "text"}
    with pytest.raises(ValueError, match="only depend on"):
        questions_from([text, {"key": "b", "label": "x", "kind": "text", "shown_if": ["a", "x"]}])


def test_questions_survive_being_stored():
    assert questions_from(stored(FORM)) == FORM


ANSWERS = st.fixed_dictionaries(
    {},
    optional={
        "wet": st.booleans() | st.none(), "oil": st.booleans() | st.text(max_size=3),
        "litres": st.floats(-5, 300) | st.text(max_size=4), "cause": st.sampled_from(["seal", "hose", "rust", ""]),
        "done_on": st.sampled_from(["2026-11-23", "never"]), "photo": st.integers(),
    },
)  # fmt: skip


@given(ANSWERS)
def test_clean_answers_are_clean_and_belong_to_what_comes_up(answers):
    clean, _problems = check_answers(FORM, answers)
    again, problems = check_answers(FORM, clean)
    assert (again, problems) == (clean, {})


def test_a_question_is_checked_on_construction():
    with pytest.raises(ValueError, match="is no key"):
        Question(key="", label="x", kind="text")

"""Questions and their answers: kinds, limits, what is required, and what is only asked on a condition.

Answers are a mapping from a question's key to a value: text, choice and date (ISO) are strings, numbers numbers,
yes or no booleans; a photo, picture or signature is the id of a stored file.
"""

import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import asdict, dataclass
from datetime import date
from typing import Any

KINDS = ("text", "number", "choice", "yes_no", "date", "photo", "signature")
# Answers that are the id of a stored file.
FILES = frozenset({"photo", "signature"})
REQUIRED = ("never", "to create", "to close")
_KEY = re.compile(r"[a-z][a-z0-9_]{0,39}")
MOST_QUESTIONS = 80
MOST_TEXT = 2000


@dataclass(frozen=True, kw_only=True)
class Question:
    """One question.

    Attributes
    ----------
    key : name of the answer; never changes once answers exist.
    least, most : bounds of a number.
    choices : what a choice offers.
    required : "never", "to create" (the record) or "to close" (the work).
    shown_if : key of an earlier question and the answer that brings this one up; None: always asked.

    Raises
    ------
    ValueError
        When it cannot be asked like this; with a sentence.
    """

    key: str
    label: str
    kind: str
    required: str = "never"
    least: float | None = None
    most: float | None = None
    unit: str = ""
    choices: tuple[str, ...] = ()
    shown_if: tuple[str, Any] | None = None
    hint: str = ""

    def __post_init__(self) -> None:
        if not _KEY.fullmatch(self.key):
            raise ValueError(f"“{self.key}” is no key: small letters, digits and _, beginning with a letter")
        if not self.label.strip():
            raise ValueError(f"the question “{self.key}” needs words")
        if self.kind not in KINDS:
            raise ValueError(f"“{self.label}”: there is no question of the kind “{self.kind}”")
        if self.required not in REQUIRED:
            raise ValueError(f"“{self.label}”: required is one of {', '.join(REQUIRED)}")
        if self.kind == "signature" and self.required == "to create":
            raise ValueError(f"“{self.label}”: nobody can sign before there is an order; need it to close")
        if self.kind == "choice" and len(set(self.choices)) < 2:
            raise ValueError(f"“{self.label}”: a choice offers at least two answers")
        if self.least is not None and self.most is not None and self.most < self.least:
            raise ValueError(f"“{self.label}”: the most is less than the least")


def questions_from(rows: Iterable[Mapping[str, Any]]) -> tuple[Question, ...]:
    """Questions as they are stored.

    Raises
    ------
    ValueError
        When one cannot be, two have one key, or a condition names no earlier question.
    """
    found: list[Question] = []
    for row in rows:
        values = {name: value for name, value in row.items() if name in Question.__dataclass_fields__}
        values["choices"] = tuple(str(choice).strip() for choice in values.get("choices") or () if str(choice).strip())
        shown = values.get("shown_if")
        values["shown_if"] = (str(shown[0]), shown[1]) if shown else None
        found.append(Question(**values))
    check_questions(found)
    return tuple(found)


def check_questions(questions: Sequence[Question]) -> None:
    if len(questions) > MOST_QUESTIONS:
        raise ValueError(f"at most {MOST_QUESTIONS} questions")
    earlier: dict[str, Question] = {}
    for question in questions:
        if question.key in earlier:
            raise ValueError(f"two questions have the key “{question.key}”")
        if question.shown_if is not None:
            _check_condition(question, earlier)
        earlier[question.key] = question


def _check_condition(question: Question, earlier: Mapping[str, Question]) -> None:
    assert question.shown_if is not None
    key, wanted = question.shown_if
    other = earlier.get(key)
    if other is None:
        raise ValueError(f"“{question.label}” is shown by an answer that is not asked for before it")
    if other.kind not in ("choice", "yes_no"):
        raise ValueError(f"“{question.label}” can only depend on a choice or a yes-or-no question")
    if _problem(other, wanted) is not None:
        raise ValueError(f"“{question.label}” waits for an answer that “{other.label}” cannot have")


def stored(questions: Iterable[Question]) -> list[dict[str, Any]]:
    """Questions as JSON, without what has its default."""
    rows = []
    for question in questions:
        row = asdict(question)
        rows.append({name: value for name, value in row.items() if value not in (None, "", (), "never")})
    return rows


def asked(questions: Sequence[Question], answers: Mapping[str, Any]) -> list[Question]:
    """The questions that come up, given what has been answered: a hidden one hides what hangs on it."""
    up: list[Question] = []
    keys: set[str] = set()
    for question in questions:
        if question.shown_if is None or (
            question.shown_if[0] in keys and answers.get(question.shown_if[0]) == question.shown_if[1]
        ):
            up.append(question)
            keys.add(question.key)
    return up


def check_answers(questions: Sequence[Question], answers: Mapping[str, Any]) -> tuple[dict[str, Any], dict[str, str]]:
    """Answers put right (a number typed as text becomes a number), and what is wrong with the others, by key.

    Empty answers are left out. Answers to questions that do not come up are left out too: they were given
    before another answer hid the question.
    """
    clean: dict[str, Any] = {}
    problems = {key: "This question is not asked" for key in answers if key not in {q.key for q in questions}}
    for question in asked(questions, answers):
        value = _read(question, answers.get(question.key))
        if value is None:
            continue
        problem = _problem(question, value)
        if problem:
            problems[question.key] = problem
        else:
            clean[question.key] = value
    return clean, problems


def file_answers(questions: Iterable[Question], answers: Mapping[str, Any]) -> dict[int, Question]:
    """The stored files that are answers, by their id, each with its question."""
    given = ((answers.get(question.key), question) for question in questions if question.kind in FILES)
    return {value: question for value, question in given if isinstance(value, int) and not isinstance(value, bool)}


def unanswered(questions: Sequence[Question], answers: Mapping[str, Any], *, to: str) -> list[Question]:
    """Questions that come up and must be answered `to` "create" or "close", and are not."""
    wanted = {"create": {"to create"}, "close": {"to create", "to close"}}[to]
    return [q for q in asked(questions, answers) if q.required in wanted and answers.get(q.key) in (None, "")]


def _read(question: Question, value: Any) -> Any:
    if isinstance(value, str):
        value = value.strip()
        if question.kind == "number" and value:
            try:
                value = float(value.replace(",", "."))
            except ValueError:
                return value
    if value == "":
        return None
    if isinstance(value, float) and value.is_integer():
        return int(value)
    return value


def _problem(question: Question, value: Any) -> str | None:
    if question.kind == "number":
        return _number_problem(question, value)
    if question.kind == "yes_no":
        return None if isinstance(value, bool) else "Yes or no"
    if question.kind in FILES:
        return None if isinstance(value, int) and not isinstance(value, bool) else "A picture is wanted"
    if not isinstance(value, str):
        return "Text is wanted"
    if question.kind == "choice":
        return None if value in question.choices else f"One of {', '.join(question.choices)}"
    if question.kind == "date":
        try:
            date.fromisoformat(value)
        except ValueError:
            return "A date is wanted"
        return None
    return None if len(value) <= MOST_TEXT else f"At most {MOST_TEXT} characters"


def _number_problem(question: Question, value: Any) -> str | None:
    if not isinstance(value, int | float) or isinstance(value, bool):
        return "A number is wanted"
    unit = f" {question.unit}" if question.unit else ""
    if question.least is not None and value < question.least:
        return f"At least {question.least:g}{unit}"
    if question.most is not None and value > question.most:
        return f"At most {question.most:g}{unit}"
    return None

"""Questions composed without code: the checklists of a job type, and the fields a company adds to its records."""

from core.forms.questions import (
    FILES,
    KINDS,
    Question,
    asked,
    check_answers,
    file_answers,
    questions_from,
    stored,
    unanswered,
)

__all__ = [
    "FILES",
    "KINDS",
    "Question",
    "asked",
    "check_answers",
    "file_answers",
    "questions_from",
    "stored",
    "unanswered",
]

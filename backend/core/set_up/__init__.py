"""Files that a company is set up from: depots, skills, vehicles, people and their shifts."""

from core.set_up.files import COLUMNS, EXAMPLES, MAX_ROWS, SetUpKind, guess, read_set_up
from core.set_up.values import days_in_words

__all__ = ["COLUMNS", "EXAMPLES", "MAX_ROWS", "SetUpKind", "days_in_words", "guess", "read_set_up"]

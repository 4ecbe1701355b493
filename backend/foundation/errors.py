"""The five ways a command or query fails. Each has a stable code and a sentence a user understands."""

from collections.abc import Sequence
from typing import Any


class RelayError(Exception):
    """Base of the five. `code` is for programs, the sentence for people."""

    status = 500

    def __init__(self, sentence: str, *, code: str) -> None:
        super().__init__(sentence)
        self.sentence = sentence
        self.code = code

    def details(self) -> dict[str, Any]:
        return {}


class NotFound(RelayError):
    status = 404

    def __init__(self, sentence: str = "That is not here (any more).", *, code: str = "not_found") -> None:
        super().__init__(sentence, code=code)


class NotPermitted(RelayError):
    status = 403

    def __init__(self, sentence: str = "Your role does not allow this.", *, code: str = "not_permitted") -> None:
        super().__init__(sentence, code=code)


class Rejected(RelayError):
    """A rule says no: `reasons` in words, and the field it is about."""

    status = 422

    def __init__(self, sentence: str, *, code: str = "rejected", field: str = "", reasons: Sequence[str] = ()) -> None:
        super().__init__(sentence, code=code)
        self.field = field
        self.reasons = list(reasons)

    def details(self) -> dict[str, Any]:
        return {"field": self.field, "reasons": self.reasons}


class Conflict(RelayError):
    """Somebody else changed it since it was read: what changed, and the current version."""

    status = 409

    def __init__(self, sentence: str, *, code: str = "stale", current_version: int | None = None) -> None:
        super().__init__(sentence, code=code)
        self.current_version = current_version

    def details(self) -> dict[str, Any]:
        return {"current_version": self.current_version}


class TryAgain(RelayError):
    status = 503

    def __init__(
        self, sentence: str = "This did not work just now. Try again.", *, code: str = "try_again", status: int = 503
    ) -> None:
        super().__init__(sentence, code=code)
        self.status = status

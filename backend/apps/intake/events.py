"""What happens to requests, for those who listen."""

from dataclasses import dataclass
from datetime import datetime

from apps.intake.models import Request


@dataclass(frozen=True, kw_only=True)
class RequestTaken:
    """A need was noted. `silent`: whoever sent it is not to be answered by itself."""

    request: Request
    at: datetime
    silent: bool = False


@dataclass(frozen=True, kw_only=True)
class RequestAnswered:
    """Somebody wrote back to who sent the request."""

    request: Request
    text: str
    at: datetime

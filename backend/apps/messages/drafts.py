"""A message before it is written."""

from dataclasses import dataclass

from apps.intake.models import Request
from apps.orders.models import Visit
from apps.quotes.models import Quote


@dataclass(frozen=True, kw_only=True)
class Draft:
    """To whom, by which channel, and what it tells; about a visit, a request or a quote, if about one."""

    kind: str
    channel: str
    name: str
    address: str
    text: str
    visit: Visit | None = None
    request: Request | None = None
    quote: Quote | None = None

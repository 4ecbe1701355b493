"""The worker's part in accounts."""

from procrastinate import RetryStrategy
from procrastinate.contrib.django import app

from apps.accounts import letters


@app.task(name=letters.SEND, retry=RetryStrategy(max_attempts=8, exponential_wait=3))
def send_letter(kind: letters.Kind, account_id: int, origin: str, more: dict[str, str] | None = None) -> None:
    """Send one letter; twice is two letters with links of which one is used."""
    letters.send(kind, account_id=account_id, origin=origin, more=more)

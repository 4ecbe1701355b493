"""The worker's part in messages."""

from procrastinate import RetryStrategy
from procrastinate.contrib.django import app

from apps.messages import commands
from apps.messages.gateways import gateway
from foundation import clock


@app.task(name=commands.DELIVER, retry=RetryStrategy(max_attempts=5, exponential_wait=2))
def deliver_message(message_id: int) -> None:
    """Deliver one message; safe to run twice."""
    commands.deliver(now=clock.now(), message_id=message_id, gateway=gateway())

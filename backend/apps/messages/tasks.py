"""The worker's part in messages."""

from procrastinate import RetryStrategy
from procrastinate.contrib.django import app

from apps.messages import delivery
from apps.messages.gateways import gateway
from foundation import clock


@app.task(name=delivery.DELIVER, retry=RetryStrategy(max_attempts=delivery.MOST_TRIES, exponential_wait=2))
def deliver_message(message_id: int) -> None:
    """Deliver one message; safe to run twice."""
    delivery.deliver(now=clock.now(), message_id=message_id, gateway=gateway())


@app.periodic(cron="* * * * *")
@app.task(name="messages.sweep", queueing_lock="messages.sweep")
def sweep(timestamp: int) -> None:  # noqa: ARG001 - given by the queue
    """Look for messages that got stuck; safe to run twice."""
    delivery.sweep(now=clock.now())

"""The worker's part in orders."""

from procrastinate.contrib.django import app

from apps.orders.commands.learning import learn_lengths
from foundation import clock


@app.periodic(cron="41 2 * * *")
@app.task(name="orders.learn_lengths", queueing_lock="orders.learn_lengths")
def learn_lengths_of_work(timestamp: int) -> None:  # noqa: ARG001 - given by the queue
    """Learn how long work takes; safe to run twice."""
    learn_lengths(now=clock.now())

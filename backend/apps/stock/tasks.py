"""The worker's part in stock."""

from procrastinate.contrib.django import app

from apps.stock import commands
from foundation import clock


@app.periodic(cron="53 2 * * *")
@app.task(name="stock.check_levels", queueing_lock="stock.check_levels")
def check_levels(timestamp: int) -> None:  # noqa: ARG001 - given by the queue
    """Hold levels against their movements; safe to run twice."""
    commands.check_levels(now=clock.now())

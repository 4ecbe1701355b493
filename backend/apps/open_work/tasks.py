"""The worker's part in open work."""

from procrastinate.contrib.django import app

from apps.open_work import commands
from foundation import clock


# The name from before it had an app of its own: the queue knows it by that.
@app.periodic(cron="47 2 * * *")
@app.task(name="orders.retire_files", queueing_lock="orders.retire_files")
def retire_files(timestamp: int) -> None:  # noqa: ARG001 - given by the queue
    """Throw away files of open work that are over and done with."""
    commands.retire(now=clock.now())

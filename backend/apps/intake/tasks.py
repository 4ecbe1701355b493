"""The worker's part in intake."""

from procrastinate.contrib.django import app

from apps.intake import commands
from apps.intake.mailbox import mailbox
from foundation import clock


@app.periodic(cron="* * * * *")
@app.task(name="intake.read_mailbox", queueing_lock="intake.read_mailbox")
def read_mailbox(timestamp: int) -> None:  # noqa: ARG001 - given by the queue
    """Look for new e-mail every minute; safe to run twice."""
    commands.read_mailbox(now=clock.now(), mailbox=mailbox())

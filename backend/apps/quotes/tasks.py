"""The worker's part in quotes."""

from procrastinate import RetryStrategy
from procrastinate.contrib.django import app

from apps.quotes import commands
from apps.quotes.commands.approving import FILE_PAPER
from foundation import clock


@app.task(name=FILE_PAPER, retry=RetryStrategy(max_attempts=5, exponential_wait=3))
def file_paper(answer_id: int) -> None:
    """Keep what was signed as a file; safe to run twice."""
    commands.file_paper(now=clock.now(), answer_id=answer_id)


@app.periodic(cron="*/10 * * * *")
@app.task(name="quotes.look_at_the_calendar", queueing_lock="quotes.look_at_the_calendar")
def look_at_the_calendar(timestamp: int) -> None:  # noqa: ARG001 - given by the queue
    """Let quotes run out, and remind their authors to ask; safe to run twice."""
    commands.expire_overdue(now=clock.now())
    commands.follow_up(now=clock.now())
    commands.file_missing_papers(now=clock.now())

"""The worker's part in setting up: archives."""

from procrastinate.contrib.django import app

from apps.set_up import archive
from foundation import clock


@app.task(name=archive.MAKE)
def make_archive(archive_id: int) -> None:
    """Put everything into an archive; safe to run twice."""
    archive.make(archive_id)


@app.task(name=archive.TAKE)
def take_archive(archive_id: int) -> None:
    """Fill an empty installation from an archive; safe to run twice."""
    archive.take(archive_id)


@app.periodic(cron="* * * * *")
@app.task(name="set_up.sweep_archives", queueing_lock="set_up.sweep_archives")
def sweep_archives(timestamp: int) -> None:  # noqa: ARG001 - given by the queue
    """Take up archives whose job was lost; safe to run twice."""
    archive.sweep(now=clock.now())


@app.periodic(cron="59 2 * * *")
@app.task(name="set_up.retire_archives", queueing_lock="set_up.retire_archives")
def retire_archives(timestamp: int) -> None:  # noqa: ARG001 - given by the queue
    """Throw away old archives."""
    archive.retire(now=clock.now())

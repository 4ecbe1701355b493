"""The worker's part in customers: reading files, bringing them in."""

from procrastinate.contrib.django import app

from apps.customers import importing
from foundation import clock


@app.task(name=importing.READ)
def read_file(file_id: int) -> None:
    """Say row by row what a file would make; safe to run twice."""
    importing.read(file_id)


@app.task(name=importing.IMPORT)
def import_file(file_id: int) -> None:
    """Bring in the accepted rows; safe to run twice, and to take up again."""
    importing.bring_in(file_id)


@app.periodic(cron="* * * * *")
@app.task(name="customers.sweep_files", queueing_lock="customers.sweep_files")
def sweep_files(timestamp: int) -> None:  # noqa: ARG001 - given by the queue
    """Take up files whose job was lost; safe to run twice."""
    importing.sweep(now=clock.now())


@app.periodic(cron="53 2 * * *")
@app.task(name="customers.retire_files", queueing_lock="customers.retire_files")
def retire_files(timestamp: int) -> None:  # noqa: ARG001 - given by the queue
    """Throw away the contents of files that are over and done with."""
    importing.retire(now=clock.now())

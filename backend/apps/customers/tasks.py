"""The worker's part in customers: reading files, bringing them in."""

from procrastinate.contrib.django import app

from apps.customers import importing


@app.task(name=importing.READ)
def read_file(file_id: int) -> None:
    """Say row by row what a file would make; safe to run twice."""
    importing.read(file_id)


@app.task(name=importing.IMPORT)
def import_file(file_id: int) -> None:
    """Bring in the accepted rows, all or nothing; safe to run twice."""
    importing.bring_in(file_id)

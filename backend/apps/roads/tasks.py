"""The worker's part in roads: another region."""

from procrastinate.contrib.django import app

from apps.roads import files
from foundation import clock


@app.task(name=files.TASK)
def bring_region(file_id: int) -> None:
    """Bring in an extract; safe to run twice."""
    files.work_apart(file_id)


@app.periodic(cron="* * * * *")
@app.task(name="roads.sweep_region_files", queueing_lock="roads.sweep_region_files")
def sweep_region_files(timestamp: int) -> None:  # noqa: ARG001 - given by the queue
    """Take up what was lost; safe to run twice."""
    files.sweep(now=clock.now())

"""Upkeep of the queue itself, and of what nobody came back for."""

from django.contrib.sessions.models import Session
from django.utils import timezone
from procrastinate.contrib.django import app

from foundation import clock, files, once

# A worker that was killed leaves its task behind as "doing"; after this long it is taken up again.
STALLED_SECONDS = 60
# Jobs that were done are kept so long.
JOB_DAYS = 14


@app.periodic(cron="* * * * *")
@app.task(name="foundation.retry_stalled", queueing_lock="retry_stalled", pass_context=True)
async def retry_stalled(_context: object, timestamp: int) -> None:  # noqa: ARG001 - given by the queue
    """Hand the jobs of dead workers to living ones."""
    for job in await app.job_manager.get_stalled_jobs(seconds_since_heartbeat=STALLED_SECONDS):
        await app.job_manager.retry_job(job)


@app.periodic(cron="29 3 * * *")
@app.task(name="foundation.retire_jobs", queueing_lock="retire_jobs")
async def retire_jobs(timestamp: int) -> None:  # noqa: ARG001 - given by the queue
    """Throw away jobs that were done long ago; those that failed stay, somebody may still ask why."""
    await app.job_manager.delete_old_jobs(nb_hours=24 * JOB_DAYS)


@app.periodic(cron="23 3 * * *")
@app.task(name="foundation.retire_sessions", queueing_lock="retire_sessions")
def retire_sessions(timestamp: int) -> None:  # noqa: ARG001 - given by the queue
    """Throw away sessions that have ended."""
    Session.objects.filter(expire_date__lt=timezone.now()).delete()


@app.periodic(cron="17 3 * * *")
@app.task(name="foundation.clear_desks", queueing_lock="clear_desks")
def clear_desks(timestamp: int) -> None:  # noqa: ARG001 - given by the queue
    """Throw away files of records that were never made, and answers that nobody asks for again."""
    files.clear_desks(now=clock.now())
    once.forget(now=clock.now())

"""Work for the queue that follows from a change: given to it once the change is committed, never before.

A job that is given to the queue inside a transaction may be taken up before the transaction ends: in a worker the
queue has a connection of its own. What is lost between commit and queue is found by the sweeps of each capability.
"""

import logging
from typing import Any

from django.db import transaction
from procrastinate.contrib.django import app
from procrastinate.exceptions import AlreadyEnqueued

log = logging.getLogger(__name__)


def after_commit(
    task: str, *, queue: str = "default", lock: str | None = None, wait: int = 0, **arguments: Any
) -> None:
    """Have a task done once what is being written holds.

    Parameters
    ----------
    lock
        While a job with this lock waits, a second one is not added.
    wait
        Seconds before it is done.
    """
    transaction.on_commit(lambda: _enqueue(task, queue, lock, wait, arguments), robust=True)


def _enqueue(task: str, queue: str, lock: str | None, wait: int, arguments: dict[str, Any]) -> None:
    later: dict[str, Any] = {"schedule_in": {"seconds": wait}} if wait else {}
    try:
        with transaction.atomic():
            app.configure_task(task, queue=queue, queueing_lock=lock, **later).defer(**arguments)
    except AlreadyEnqueued:
        log.debug("%s %s waits already", task, lock)

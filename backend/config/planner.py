"""Entry point of the planner's process: its HTTP, and a worker on the queue of planning runs."""

import asyncio
import contextlib
import logging
import os
from typing import Any

from django.core.asgi import get_asgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
os.environ["RELAY_PART"] = "planner"
_django = get_asgi_application()

from django.conf import settings  # noqa: E402 - Django must be set up first

settings.ROOT_URLCONF = "config.planner_api"

from procrastinate.contrib.django import app as queue  # noqa: E402

from apps.appointments.planner import offers  # noqa: E402
from apps.scheduling.commands.runs import QUEUE  # noqa: E402
from core.scheduling.engine.warm import warm_up  # noqa: E402

log = logging.getLogger(__name__)
RESTART_SECONDS = 2.0
READY_SECONDS = 0.5


async def application(scope: dict[str, Any], receive: Any, send: Any) -> None:
    """ASGI: the worker lives as long as the process."""
    if scope["type"] == "lifespan":
        await _live(receive, send)
    else:
        await _django(scope, receive, send)


async def _live(receive: Any, send: Any) -> None:
    await receive()
    # Loading the compiled kernels takes a moment; a request that comes first would wait for it.
    await asyncio.to_thread(warm_up)
    worker = asyncio.create_task(_work())
    ready = asyncio.create_task(_keep_ready())
    await send({"type": "lifespan.startup.complete"})
    await receive()
    for task in (worker, ready):
        task.cancel()
        with contextlib.suppress(asyncio.CancelledError):
            await task
    await send({"type": "lifespan.shutdown.complete"})


async def _keep_ready() -> None:
    """Offers wait for nothing: the days are made anew as soon as something on them has changed."""
    while True:
        await asyncio.sleep(READY_SECONDS)
        try:
            await asyncio.to_thread(offers.keep_ready)
        except Exception:
            log.exception("the days could not be made ready")


async def _work() -> None:
    """Work on the queue of runs; after an interruption (the database went away) take it up again."""
    while True:
        try:
            with queue.replace_connector(queue.connector.get_worker_connector()) as app:  # type: ignore[attr-defined]
                async with app.open_async():
                    await app.run_worker_async(queues=[QUEUE], concurrency=1, install_signal_handlers=False)
        except Exception:
            log.exception("the planner's worker was interrupted")
        await asyncio.sleep(RESTART_SECONDS)

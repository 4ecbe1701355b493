"""One LISTEN connection per web process, fanned out to every open screen."""

import asyncio
import json
import logging
from collections.abc import AsyncIterator
from typing import Any

import psycopg
from django.db import connections

from foundation.live import CHANNEL

log = logging.getLogger(__name__)
Event = dict[str, Any]
RESYNC: Event = {"topic": "resync"}
HELLO: Event = {"topic": "hello"}
_QUEUE_LENGTH = 200
_RECONNECT_SECONDS = 1.0
BEAT_SECONDS = 15.0


class Hub:
    """Listens while anybody is subscribed. After a break everybody is told to look again."""

    def __init__(self) -> None:
        self._queues: set[asyncio.Queue[Event]] = set()
        self._task: asyncio.Task[None] | None = None

    async def events(self) -> AsyncIterator[Event | None]:
        """HELLO once nothing can be missed any more, then events as they come; None now and then, so that a dead
        reader is noticed."""
        queue: asyncio.Queue[Event] = asyncio.Queue(_QUEUE_LENGTH)
        self._queues.add(queue)
        if self._task is None or self._task.done():
            self._task = asyncio.create_task(self._listen())
        try:
            yield HELLO
            while True:
                try:
                    yield await asyncio.wait_for(queue.get(), BEAT_SECONDS)
                except TimeoutError:
                    yield None
        finally:
            self._queues.discard(queue)
            if not self._queues and self._task:
                self._task.cancel()
                self._task = None

    async def _listen(self) -> None:
        while True:
            try:
                async with await self._connect() as connection:
                    await connection.execute(f"LISTEN {CHANNEL}")
                    # Also the first time: what happened until now was not heard.
                    self._spread(RESYNC)
                    async for notice in connection.notifies():
                        self._spread(json.loads(notice.payload))
            except (psycopg.Error, OSError) as error:
                log.warning("live changes interrupted: %s", error)
            except Exception:
                # Whatever it was: everybody would be deaf if this ended.
                log.exception("live changes interrupted")
            await asyncio.sleep(_RECONNECT_SECONDS)

    async def _connect(self) -> psycopg.AsyncConnection[Any]:
        settings = connections["default"].get_connection_params()
        wanted = ("dbname", "user", "password", "host", "port")
        return await psycopg.AsyncConnection.connect(
            autocommit=True, **{name: settings[name] for name in wanted if settings.get(name)}
        )

    def _spread(self, event: Event) -> None:
        for queue in self._queues:
            try:
                queue.put_nowait(event)
            except asyncio.QueueFull:
                # A reader this far behind starts over.
                while not queue.empty():
                    queue.get_nowait()
                queue.put_nowait(RESYNC)


hub = Hub()

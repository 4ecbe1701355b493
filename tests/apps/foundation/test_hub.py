"""The hub that fans live changes out, without a database."""

import asyncio

from foundation.hub import HELLO, RESYNC, Hub


class SilentHub(Hub):
    """Never connects; events are spread by the test."""

    async def _listen(self):
        await asyncio.sleep(3600)


def in_a_loop(scenario):
    return asyncio.run(asyncio.wait_for(scenario(), 10))


def test_every_reader_gets_every_event():
    async def scenario():
        hub = SilentHub()
        readers = [hub.events() for _ in range(3)]
        assert [await anext(reader) for reader in readers] == [HELLO] * 3
        waiting = [asyncio.ensure_future(anext(reader)) for reader in readers]
        await asyncio.sleep(0)
        hub._spread({"topic": "visit"})
        got = await asyncio.gather(*waiting)
        for reader in readers:
            await reader.aclose()
        return got

    assert in_a_loop(scenario) == [{"topic": "visit"}] * 3


def test_a_reader_that_falls_far_behind_starts_over():
    async def scenario():
        hub = SilentHub()
        reader = hub.events()
        assert await anext(reader) == HELLO
        first = asyncio.ensure_future(anext(reader))
        await asyncio.sleep(0)
        for number in range(500):
            hub._spread({"topic": "visit", "ids": [number]})
        got = [await first, await anext(reader)]
        await reader.aclose()
        return got

    first, second = in_a_loop(scenario)
    assert RESYNC in (first, second) or second["ids"][0] > 200


def test_when_the_last_reader_leaves_the_hub_stops_listening():
    async def scenario():
        hub = SilentHub()
        reader = hub.events()
        waiting = asyncio.ensure_future(anext(reader))
        await asyncio.sleep(0)
        listening = hub._task
        waiting.cancel()
        await asyncio.gather(waiting, return_exceptions=True)
        await reader.aclose()
        await asyncio.sleep(0)
        return listening.cancelled() or listening.cancelling() > 0, hub._task, hub._queues

    stopped, task, queues = in_a_loop(scenario)
    assert stopped
    assert task is None
    assert queues == set()


def test_once_it_listens_everybody_looks_again_because_nothing_was_heard_before():
    class OneNotice(Hub):
        """Connects at once, and hears nothing."""

        async def _connect(self):
            return Listening()

    class Listening:
        async def __aenter__(self):
            return self

        async def __aexit__(self, *_error):
            return False

        async def execute(self, _statement):
            return None

        async def notifies(self):
            await asyncio.sleep(3600)
            yield

    async def scenario():
        reader = OneNotice().events()
        got = [await anext(reader), await anext(reader)]
        await reader.aclose()
        return got

    assert in_a_loop(scenario) == [HELLO, RESYNC]

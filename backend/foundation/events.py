"""Things that happened, told to whoever listens, inside the transaction they happened in."""

from collections import defaultdict
from collections.abc import Callable
from typing import Any

_listeners: defaultdict[type, list[Callable[[Any], None]]] = defaultdict(list)


def listen(kind: type, listener: Callable[[Any], None]) -> None:
    """Call `listener` for every event of that type. Listening twice counts once."""
    if listener not in _listeners[kind]:
        _listeners[kind].append(listener)


def publish(event: object) -> None:
    """Tell all listeners; if one fails, the whole transaction does."""
    for listener in _listeners[type(event)]:
        listener(event)

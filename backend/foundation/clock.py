"""The one clock. Everything that needs the time asks here, or is told `now` by somebody who did."""

import time
from collections.abc import Iterator
from contextlib import AbstractContextManager, contextmanager
from datetime import UTC, datetime

from django.conf import settings

_frozen: float | None = None
_shift: tuple[float, int] | None = None  # when it was read (monotonic), seconds
_REREAD_SECONDS = 20


def now() -> datetime:
    """The application's time, in UTC, to the second."""
    moment = time.time() + _demo_shift() if _frozen is None else _frozen
    return datetime.fromtimestamp(int(moment), UTC)


def set_shift(seconds: int) -> None:
    """Let the demo's clock run `seconds` ahead of the machine's."""
    global _shift
    from foundation.models import ClockShift

    ClockShift.objects.update_or_create(pk=1, defaults={"seconds": seconds})
    _shift = None


def frozen(at: datetime) -> AbstractContextManager[None]:
    """Let the time stand still, for tests."""
    return _held(at.timestamp())


def running() -> AbstractContextManager[None]:
    """Let the time run inside a stretch in which it stands still, for tests."""
    return _held(None)


@contextmanager
def _held(at: float | None) -> Iterator[None]:
    global _frozen
    before, _frozen = _frozen, at
    try:
        yield
    finally:
        _frozen = before


def _demo_shift() -> int:
    global _shift
    if not settings.DEMO:
        return 0
    if _shift is None or time.monotonic() - _shift[0] > _REREAD_SECONDS:
        from foundation.models import ClockShift

        row = ClockShift.objects.filter(pk=1).first()
        _shift = (time.monotonic(), row.seconds if row else 0)
    return _shift[1]

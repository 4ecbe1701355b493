"""One voice for every long step: what is being done, and how long it took."""

import sys
import time
from collections.abc import Iterator
from contextlib import contextmanager


class Stop(Exception):
    """The command cannot go on; the text is one sentence that says what to do."""


def line(text: str) -> None:
    print(f"  {text}", file=sys.stderr, flush=True)


@contextmanager
def step(text: str) -> Iterator[None]:
    """Print `text`, then the seconds it took."""
    began = time.monotonic()
    print(f"  {text} … ", end="", file=sys.stderr, flush=True)
    try:
        yield
    except BaseException:
        print("failed", file=sys.stderr, flush=True)
        raise
    print(f"{time.monotonic() - began:.1f} s", file=sys.stderr, flush=True)

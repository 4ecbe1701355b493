"""Large files that come in parts: each is small enough for any request, and one that was lost is sent again.

What is being sent lies in a folder of its own, by who sends it and a key that the sender made up.
"""

import re
import time
from pathlib import Path

from django.conf import settings
from django.db import transaction

from foundation import pictures
from foundation.actors import Actor
from foundation.errors import Conflict, NotFound, Rejected

LARGEST = 40 * 2**30
# A file that nobody has added to for so long was given up.
KEPT_SECONDS = 86_400


def add(*, actor: Actor, key: str, at: int, content: bytes) -> int:
    """Add a part to a file that is being sent; answers how long it is now.

    Parameters
    ----------
    at
        Where the part begins. A part that is there already is passed over, so that it may come twice.

    Raises
    ------
    Conflict
        When parts before it are missing: `current_version` is how much is there.
    """
    path = _path(actor, key)
    path.parent.mkdir(parents=True, exist_ok=True)
    there = path.stat().st_size if path.exists() else 0
    if at + len(content) > LARGEST:
        raise Rejected("The file is too large.", field="file")
    if at > there:
        raise Conflict("A part is missing: go on from where it broke off.", current_version=there)
    if at + len(content) > there:
        with path.open("ab") as file:
            file.write(content[there - at :])
    return max(there, at + len(content))


def whole(*, actor: Actor, key: str) -> Path:
    """The file that was sent.

    Raises
    ------
    NotFound
    """
    path = _path(actor, key)
    if not path.exists():
        raise NotFound("That file is not here (any more). Choose it again.", code="no_file")
    return path


def add_to_picture(*, actor: Actor, key: str, at: int, content: bytes, size: int) -> tuple[int, bytes | None]:
    """Add a piece to a picture of `size` bytes: how much of it is here, and the picture itself once it is whole.

    Raises
    ------
    Conflict
        When pieces before it are missing: `current_version` is how much is here.
    Rejected
        When it is more than was told, or no picture that can be read.
    """
    if at + len(content) > size:
        raise Rejected("That is more than was told of this picture.", code="too_large")
    length = add(actor=actor, key=key, at=at, content=content)
    return length, _picture(actor, key) if length >= size else None


def _picture(actor: Actor, key: str) -> bytes:
    """A picture that has come whole; with the transaction its pieces are thrown away, and at once if none can read it:
    then it is sent anew."""
    path = whole(actor=actor, key=key)
    content = path.read_bytes()
    try:
        pictures.check(content)
    except Rejected:
        path.unlink(missing_ok=True)
        raise
    transaction.on_commit(lambda: path.unlink(missing_ok=True))
    return content


def clear() -> int:
    """Throw away what was given up; how many."""
    folder, now = _folder(), time.time()
    old = [path for path in folder.glob("*") if now - path.stat().st_mtime > KEPT_SECONDS] if folder.exists() else []
    for path in old:
        path.unlink(missing_ok=True)
    return len(old)


def _folder() -> Path:
    return Path(settings.MEDIA_ROOT) / "parts"


def _path(actor: Actor, key: str) -> Path:
    if not re.fullmatch(r"[0-9a-f-]{8,40}", key):
        raise NotFound("There is no such file.", code="no_file")
    return _folder() / f"{actor.id}-{key}"

"""Everything in one archive, and an empty installation filled from one.

An archive is a zip file: `archive.json` says what it is, `tables/*.csv` hold the rows (RFC 4180, as PostgreSQL copies
them: an empty cell is null, a quoted one is a text), `files/*` the files of records.
"""

from apps.set_up.archive.commands import archives, ask_for_archive, bring_archive, opened, retire, sweep
from apps.set_up.archive.working import MAKE, TAKE, is_empty, make, take

__all__ = [
    "MAKE",
    "TAKE",
    "archives",
    "ask_for_archive",
    "bring_archive",
    "is_empty",
    "make",
    "opened",
    "retire",
    "sweep",
    "take",
]

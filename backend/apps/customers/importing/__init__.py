"""Customers, sites, contacts and assets from files.

The worker reads a file and says of each row what it would make or change; told to go on, it brings the accepted rows
in, some at a time, by the same rules as by hand: versions, locks, only what differs, an entry in the history each.
"""

from apps.customers.importing.bringing import bring_in
from apps.customers.importing.files import (
    accept,
    choose_columns,
    file,
    latest_files,
    refused_rows,
    retire,
    stop,
    sweep,
    upload,
)
from apps.customers.importing.reading import read
from apps.customers.importing.states import IMPORT, READ

__all__ = [
    "IMPORT",
    "READ",
    "accept",
    "bring_in",
    "choose_columns",
    "file",
    "latest_files",
    "read",
    "refused_rows",
    "retire",
    "stop",
    "sweep",
    "upload",
]

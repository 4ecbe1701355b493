"""Files of customers: what their rows say."""

from core.basics.tables import BadFile, FileRow, MissingColumns, headings_of
from core.customers.files import (
    COLUMNS,
    MAX_ROWS,
    columns_of,
    guess,
    needed_columns,
    read_rows,
    read_vcards,
)

__all__ = [
    "COLUMNS",
    "MAX_ROWS",
    "BadFile",
    "FileRow",
    "MissingColumns",
    "columns_of",
    "guess",
    "headings_of",
    "needed_columns",
    "read_rows",
    "read_vcards",
]

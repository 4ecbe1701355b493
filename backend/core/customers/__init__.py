"""Files of customers: what their rows say."""

from core.customers.files import (
    COLUMNS,
    MAX_ROWS,
    BadFile,
    FileRow,
    MissingColumns,
    columns_of,
    guess,
    headings_of,
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

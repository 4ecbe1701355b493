"""Reading a file: what each of its rows would make or change. Changes no customer."""

from collections import Counter
from typing import Any

from apps.company.queries import record_fields
from apps.customers.importing.matching import MATCHERS, Planned
from apps.customers.importing.states import ends_in_words, settle
from apps.customers.models import ColumnChoice, CustomerFile
from core.basics.tables import heading
from core.customers import BadFile, FileRow, MissingColumns, guess, headings_of, read_rows, read_vcards
from foundation import clock

# Rows kept for the screen: the refused ones first.
SHOWN_ROWS = 600
TELL_EVERY = 500


def is_cards(file: CustomerFile) -> bool:
    return file.kind == "contacts" and file.text.lstrip().upper().startswith("BEGIN:VCARD")


def rows_of(file: CustomerFile) -> list[FileRow]:
    """The file's rows, by the columns that were guessed or chosen.

    Raises
    ------
    BadFile
    """
    return read_vcards(file.text) if is_cards(file) else read_rows(file.kind, file.text, file.columns)


def own_keys(kind: str) -> list[str]:
    return [question.key for question in record_fields(kind.removesuffix("s"))] if kind != "contacts" else []


@ends_in_words
def read(file_id: int) -> None:
    """Say row by row what a file would make. Safe to run twice."""
    file = CustomerFile.objects.filter(pk=file_id, state="reading").first()
    if file is None:
        return
    try:
        if not is_cards(file) and not file.columns:
            file.columns = _guessed(file)
            settle(file.pk, columns=file.columns)
        rows = rows_of(file)
    except MissingColumns as error:
        settle(file.pk, state="columns", failure=str(error)[:300])
        return
    except BadFile as error:
        settle(file.pk, state="failed", failure=str(error)[:300])
        return
    planned = _planned(file, rows)
    counts: dict[str, Any] = dict(Counter(one.becomes for one in planned))
    if unknown := [title for title, column in file.columns.items() if title and not column]:
        counts["unknown"] = unknown
    shown = sorted(planned, key=lambda one: (one.becomes != "refused", one.becomes == "same"))[:SHOWN_ROWS]
    seen = {one.row.line: one.record.version for one in planned if one.becomes == "change"}
    settle(
        file.pk, state="read", share=1, counts=counts, rows=[in_words(one) for one in shown], seen=seen,
        read_at=clock.now(), failure="",
    )  # fmt: skip


def _guessed(file: CustomerFile) -> dict[str, str]:
    remembered = dict(ColumnChoice.objects.filter(kind=file.kind).values_list("heading", "column"))
    return guess(file.kind, headings_of(file.text), extra=own_keys(file.kind), remembered=remembered)


def remember(kind: str, columns: dict[str, str]) -> None:
    """What somebody decided counts for the next file with the same headings."""
    for title, column in columns.items():
        if key := heading(title)[:120]:
            ColumnChoice.objects.update_or_create(kind=kind, heading=key, defaults={"column": column})


def _planned(file: CustomerFile, rows: list[FileRow]) -> list[Planned]:
    matcher = MATCHERS[file.kind]()
    planned = []
    for number, row in enumerate(rows):
        planned.append(matcher.match_all(Planned(row=row)))
        if number % TELL_EVERY == 0:
            settle(file.pk, share=min(0.95, number / max(1, len(rows))), moved_at=clock.now())
    return planned


def in_words(one: Planned) -> dict[str, Any]:
    """A row as the screen shows it."""
    cells = one.row.cells
    parts = [cells.get(name) for name in ("customer", "name", "site", "kind", "serial", "address", "phone")]
    return {
        "line": one.row.line, "becomes": one.becomes, "words": " · ".join(str(part) for part in parts if part)[:160],
        "notes": one.notes, "problems": one.row.problems,
    }  # fmt: skip

"""Wire shapes of setting up."""

from typing import Literal

from ninja import Field, Schema

from apps.set_up.bringing import Brought
from apps.set_up.models import Archive
from apps.set_up.rows import Becomes
from foundation.schemas import Text


class ArchiveOut(Schema):
    """`way`: made here ("out") or brought here ("in"). `can_be_taken`: its content is still kept."""

    id: int
    way: Literal["out", "in"]
    state: Literal["waiting", "running", "done", "failed"]
    asked_at: int
    asked_by: str
    failure: str
    size: int
    rows: int
    can_be_taken: bool

    @staticmethod
    def resolve_asked_at(row: Archive) -> int:
        return int(row.asked_at.timestamp())

    @staticmethod
    def resolve_can_be_taken(row: Archive) -> bool:
        return row.way == "out" and row.state == "done" and bool(row.content)


class BringArchiveIn(Schema):
    """`key` of the file that was sent in parts."""

    key: Text = Field(max_length=40)


class ExampleIn(Schema):
    """`trade` is the key of a starter set."""

    trade: Text = Field(max_length=40)


class ExampleOut(Schema):
    """`exists`: there is an example, which can be thrown away with all of `counts`; `can_be_filled`: the company is
    empty."""

    exists: bool
    can_be_filled: bool
    counts: dict[str, int]


class ArchivesOut(Schema):
    """`is_empty`: an archive can be brought in."""

    is_empty: bool
    archives: list[ArchiveOut]


class SetUpRowOut(Schema):
    """A line of a file: whom or what it is about, what it becomes, and why it does not."""

    line: int
    what: str
    becomes: Becomes
    problems: list[str]


class BroughtOut(Schema):
    """`sure`: it is done; otherwise only what would be. `left_out`: headings that mean no column."""

    sure: bool
    counts: dict[Becomes, int]
    left_out: list[str]
    rows: list[SetUpRowOut]

    @classmethod
    def of(cls, found: Brought, *, sure: bool) -> "BroughtOut":
        rows = [
            SetUpRowOut(
                line=row.line, what=row.text("name") or row.text("technician"), becomes=row.becomes,
                problems=row.problems,
            )
            for row in found.rows
        ]  # fmt: skip
        counts = {becomes: found.count(becomes) for becomes in Becomes}
        return cls(sure=sure, counts=counts, left_out=list(found.left_out), rows=rows)

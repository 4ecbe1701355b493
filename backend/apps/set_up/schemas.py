"""Wire shapes of setting up."""

from ninja import Schema

from apps.set_up.bringing import Brought
from apps.set_up.rows import Becomes


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

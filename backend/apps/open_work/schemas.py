"""Wire shapes of open work."""

from typing import Self

from ninja import Schema

from apps.open_work.matching import PlannedRow


class PlannedRowOut(Schema):
    line: int
    accepted: bool
    customer: str
    site: str
    description: str
    notes: list[str]
    problems: list[str]

    @classmethod
    def of(cls, planned: PlannedRow) -> Self:
        row = planned.row
        return cls(
            line=row.line, accepted=planned.accepted, customer=row.customer, site=row.site or row.address,
            description=row.description[:200], notes=planned.notes, problems=planned.problems,
        )  # fmt: skip


class PreviewOut(Schema):
    file_id: int
    name: str
    accepted: int
    refused: int
    rows: list[PlannedRowOut]


class AcceptedOut(Schema):
    made: int

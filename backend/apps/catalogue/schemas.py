"""Wire shapes of the catalogue."""

from ninja import Schema


class JobTypeOut(Schema):
    id: int
    code: str
    name: str
    duration_seconds: int | None
    priority: int
    needs: dict[str, int]
    advice: str

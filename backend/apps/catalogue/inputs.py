"""What commands take."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from apps.pricing.inputs import LineFields


@dataclass(frozen=True, kw_only=True)
class JobTypeFields:
    """All of a job type. Times are seconds and minutes as named; see the table for the rest."""

    name: str
    duration_seconds: int | None = None
    priority: int = 3
    needs: Mapping[str, int] = field(default_factory=dict)
    certificates: Sequence[str] = ()
    crew: int = 1
    advice: str = ""
    tasks: Sequence[str] = ()
    questions: Sequence[Mapping[str, Any]] = ()
    fields: Sequence[Mapping[str, Any]] = ()
    parts: Mapping[str, int] = field(default_factory=dict)
    lines: Sequence[LineFields] = ()
    worth: int | None = None
    wanted_per_hour: int | None = None
    terms: str = ""
    visits: Sequence[Mapping[str, Any]] = ()
    steps: Sequence[Mapping[str, Any]] = ()
    respond_minutes: int | None = None
    resolve_minutes: int | None = None
    promise_minutes: int | None = None
    offers: Mapping[str, Any] = field(default_factory=dict)
    retired: bool = False

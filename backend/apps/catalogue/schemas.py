"""Wire shapes of the catalogue."""

from collections.abc import Container
from typing import Annotated, Any, Self

from ninja import Field, Schema

from apps.catalogue.inputs import JobTypeFields
from apps.catalogue.models import JobType
from apps.pricing.document_schemas import DocumentLineIn, DocumentLineOut, lines_out
from core.trades import Trade
from foundation.schemas import Text

Level = Annotated[int, Field(ge=1, le=5)]
MAX_DURATION = 14 * 24 * 3600


class JobTypeOut(Schema):
    id: int
    code: str
    name: str
    version: int
    duration_seconds: int | None
    priority: int
    needs: dict[str, int]
    certificates: list[str]
    crew: int
    advice: str
    tasks: list[str]
    questions: list[dict[str, Any]]
    fields: list[dict[str, Any]]
    parts: dict[str, int]
    lines: list[DocumentLineOut]
    worth: int | None
    wanted_per_hour: int | None
    terms: str
    visits: list[dict[str, Any]]
    steps: list[dict[str, Any]]
    respond_minutes: int | None
    resolve_minutes: int | None
    promise_minutes: int | None
    offers: dict[str, Any]
    retired: bool

    @classmethod
    def of(cls, row: JobType, *, sees_costs: bool) -> Self:
        plain = {name: getattr(row, name) for name in cls.model_fields if name not in ("id", "lines")}
        return cls(id=row.pk, lines=lines_out(row.lines, sees_costs=sees_costs), **plain)


class TieIn(Schema):
    kind: str
    to: int = Field(ge=1, le=40)
    least: int = Field(0, ge=0, le=366 * 86_400)
    greatest: int | None = Field(None, ge=0, le=366 * 86_400)


class PartIn(Schema):
    """A further visit of the job type."""

    title: Text = Field(max_length=120)
    seconds: int | None = Field(None, ge=60, le=MAX_DURATION)
    needs: dict[str, Level] | None = None
    crew: int = Field(1, ge=1, le=8)
    ties: list[TieIn] = Field(default_factory=list, max_length=20)


class WorkStepIn(Schema):
    """A step of the work at a visit. `must`: it is not finished without it."""

    kind: Text = Field(max_length=20)
    must: bool = False


class JobTypeIn(Schema):
    code: Text = Field("", max_length=40)
    name: Text = Field(max_length=80)
    duration_seconds: int | None = Field(None, ge=60, le=MAX_DURATION)
    priority: int = Field(3, ge=1, le=5)
    needs: dict[str, Level] = Field(default_factory=dict)
    certificates: list[Annotated[Text, Field(min_length=1, max_length=80)]] = Field(default_factory=list, max_length=20)
    crew: int = Field(1, ge=1, le=8)
    advice: Text = Field("", max_length=300)
    tasks: list[Annotated[Text, Field(max_length=300)]] = Field(default_factory=list, max_length=60)
    questions: list[dict[str, Any]] = Field(default_factory=list, max_length=80)
    fields: list[dict[str, Any]] = Field(default_factory=list, max_length=80)
    parts: dict[Annotated[Text, Field(max_length=80)], Annotated[int, Field(ge=1, le=1000)]] = Field(
        default_factory=dict
    )
    lines: list[DocumentLineIn] = Field(default_factory=list, max_length=60)
    worth: int | None = Field(None, ge=0, le=10_000_000)
    wanted_per_hour: int | None = Field(None, ge=0, le=100_000)
    terms: Text = Field("", max_length=6000)
    visits: list[PartIn] = Field(default_factory=list, max_length=30)
    steps: list[WorkStepIn] = Field(default_factory=list, max_length=30)
    respond_minutes: int | None = Field(None, ge=1, le=366 * 1440)
    resolve_minutes: int | None = Field(None, ge=1, le=366 * 1440)
    promise_minutes: int | None = Field(None, ge=15, le=1440)
    offers: dict[str, Any] = Field(default_factory=dict)
    retired: bool = False

    def values(self, *, sees_costs: bool) -> JobTypeFields:
        lines = [line.fields(sees_costs=sees_costs) for line in self.lines]
        return JobTypeFields(**{**self.dict(exclude={"code", "version", "lines"}), "lines": lines})


class JobTypeChangeIn(JobTypeIn):
    version: int = Field(ge=1, le=2**31 - 1)


class EditionOut(Schema):
    id: int
    number: int
    made_at: int
    made_by: str
    content: dict[str, Any]


class StarterJobOut(Schema):
    """`is_ours`: there is a job type with this code already."""

    code: str
    name: str
    minutes: int
    priority: int
    crew: int
    skills: list[str]
    is_ours: bool


class TradeOut(Schema):
    """A trade with the job types that its companies begin with."""

    key: str
    name: str
    jobs: list[StarterJobOut]

    @classmethod
    def of(cls, trade: Trade, codes: Container[str]) -> Self:
        return cls(
            key=trade.key, name=trade.name,
            jobs=[
                StarterJobOut(
                    code=job.code, name=job.name, minutes=job.minutes, priority=job.priority, crew=job.crew,
                    skills=list(job.needs), is_ours=job.code in codes,
                )
                for job in trade.jobs
            ],
        )  # fmt: skip


class StartersIn(Schema):
    codes: list[Annotated[Text, Field(max_length=40)]] = Field(max_length=200)

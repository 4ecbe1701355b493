"""Wire shapes of openings, planning runs and playbooks. Times are epoch seconds; costs are minutes of driving."""

from datetime import date
from typing import Annotated, Any, Literal

from ninja import Schema
from pydantic import Field

from apps.scheduling.models import PlanningRun, PlaybookRow
from apps.scheduling.playbooks import playbook_of
from core.scheduling import AIMS, LIMITS, Aim, Limit
from core.scheduling.model.playbook import MOST_WEIGHT, in_words
from foundation.moments import Moment, to_moment
from foundation.schemas import Text

Id = Annotated[int, Field(ge=1, le=2**62)]


class SeatOut(Schema):
    technician_id: int
    technician: str
    day: date
    drive_before: int
    added_drive: int


class CostOut(Schema):
    """What an aim adds, in minutes of driving."""

    aim: Aim
    name: str
    minutes: float


class OpeningOut(Schema):
    """A possible placement; a crew's has a seat for each member."""

    start: int
    end: int
    minutes: float
    seats: list[SeatOut]
    parts: list[CostOut]
    reasons: list[str]


class ExcludedOut(Schema):
    technician_id: int
    technician: str
    reasons: list[str]


class OpeningsOut(Schema):
    """`considered` places were looked at; `possible` technicians' days have one; `in_short` is what keeps the others
    out, counted."""

    considered: int
    possible: int
    openings: list[OpeningOut]
    in_short: list[str]
    excluded: list[ExcludedOut]


class RunIn(Schema):
    """`visit_ids` and `area_id` limit the backlog to these; without them all of it is taken."""

    kind: Literal["improve", "fill", "plan", "repair", "sequence", "spread"]
    day: date
    days: int = Field(1, ge=1, le=14)
    technician_id: Id | None = None
    visit_ids: list[Id] = Field([], max_length=2000)
    area_id: Id | None = None
    playbook_id: Id | None = None
    seconds: float = Field(5.0, ge=0.2, le=300)
    seed: int = Field(1, ge=1, le=1_000_000)


class RunOut(Schema):
    """`share` is how much of its time is over."""

    id: int
    kind: Literal["improve", "fill", "plan", "repair", "sequence", "spread"]
    first_day: date
    days: int
    technician_id: int | None
    playbook_name: str
    seconds: float
    seed: int
    state: Literal["queued", "running", "done", "stopped", "failed"]
    share: float
    iterations: int
    cost: float | None
    failure: str
    asked_at: Moment
    accepted_at: Moment | None


class RunsOut(Schema):
    """`next` is the cursor of the following page; null when there is none."""

    rows: list[RunOut]
    next: str | None


class PlacingOut(Schema):
    technician_id: int
    technician: str
    day: date
    start: int


class ChangeProposedOut(Schema):
    """`taken`: it was among the changes that were accepted. `seconds` is how long it takes, as far as is known."""

    visit_id: int
    version: int
    kind: Literal["place", "move", "retime", "unplace"]
    label: str
    title: str
    site: str
    before: list[PlacingOut]
    after: list[PlacingOut]
    reasons: list[str]
    taken: bool = False
    seconds: int | None = None
    lon: float | None = None
    lat: float | None = None


class AimEffectOut(Schema):
    """Cost of an aim before and after, in minutes of driving."""

    aim: Aim
    name: str
    before: float
    after: float


class UnservedOut(Schema):
    visit_id: int
    label: str
    title: str
    reasons: list[str]


class MeasuresOut(Schema):
    """What a plan comes to: visits, seconds, metres; see core.scheduling.judgement.proposal."""

    left: int
    promised_left: int
    late: int
    drive_seconds: int
    drive_metres: int
    overtime_seconds: int


class ToCallOut(Schema):
    """A customer whom somebody has to call, and why."""

    visit_id: int
    label: str
    customer: str
    why: str


class ProposalOut(Schema):
    """`before` and `after`: the plan as it was and as it would be; runs from before there were measures have none."""

    before: MeasuresOut | None = None
    after: MeasuresOut | None = None
    changes: list[ChangeProposedOut]
    aims: list[AimEffectOut]
    broken_before: int
    broken_after: list[str]
    unserved: list[UnservedOut]
    seed: int
    seconds: float
    iterations: int
    stopped: bool
    # Proposals of before were not asked.
    to_call: list[ToCallOut] = Field(default_factory=list)


class RunDetailOut(RunOut):
    proposal: ProposalOut | None


class ProposalAcceptIn(Schema):
    visit_ids: list[Id] = Field(min_length=1, max_length=5000)


class ProposalAcceptedOut(Schema):
    """Visits changed, and labels of those that came along because others need them."""

    changed: list[int]
    added: list[str]


class LimitSettingIn(Schema):
    limit: Limit
    on: bool
    number: int | None = Field(None, ge=0, le=100_000)


class AimWeightIn(Schema):
    aim: Aim
    weight: float = Field(ge=0, le=MOST_WEIGHT)


class PlaybookIn(Schema):
    name: Annotated[Text, Field(min_length=1, max_length=60)]
    limits: list[LimitSettingIn]
    aims: list[AimWeightIn]

    def stored_limits(self) -> dict[str, Any]:
        return {row.limit.value: {"on": row.on, "number": row.number} for row in self.limits}

    def stored_aims(self) -> dict[str, float]:
        return {row.aim.value: row.weight for row in self.aims if row.weight}


class PlaybookChangeIn(PlaybookIn):
    version: int = Field(ge=1, le=2**31 - 1)


class LimitSettingOut(Schema):
    """`words` says what is asked under this setting."""

    limit: Limit
    on: bool
    number: int | None
    words: str


class AimWeightOut(Schema):
    aim: Aim
    weight: float


class PlaybookOut(Schema):
    id: int
    version: int
    name: str
    is_default: bool
    limits: list[LimitSettingOut]
    aims: list[AimWeightOut]


class LimitRuleOut(Schema):
    """A limit that can be set; `parameter` is empty where it takes no number."""

    limit: Limit
    name: str
    asks: str
    parameter: str


class AimRuleOut(Schema):
    aim: Aim
    name: str
    costs: str


class PlaybooksOut(Schema):
    """Playbooks, and what can be set in one. Limits that always hold are named apart."""

    playbooks: list[PlaybookOut]
    limits: list[LimitRuleOut]
    always: list[LimitRuleOut]
    aims: list[AimRuleOut]


def playbook_out(row: PlaybookRow) -> dict[str, Any]:
    playbook = playbook_of(row)
    return {
        "id": row.pk,
        "version": row.version,
        "name": row.name,
        "is_default": row.is_default,
        "limits": [
            {"limit": limit, "on": setting.on, "number": setting.number, "words": in_words(limit, setting)}
            for limit, rule in LIMITS.items()
            if not rule.physical
            for setting in [playbook.setting(limit)]
        ],
        "aims": [{"aim": aim, "weight": playbook.weight(aim)} for aim in Aim],
    }


def playbooks_out(rows: list[PlaybookRow]) -> dict[str, Any]:
    rules = [
        {"limit": rule.limit, "name": rule.name, "asks": rule.words, "parameter": rule.parameter, "held": rule.physical}
        for rule in LIMITS.values()
    ]
    return {
        "playbooks": [playbook_out(row) for row in rows],
        "limits": [rule for rule in rules if not rule["held"]],
        "always": [rule for rule in rules if rule["held"]],
        "aims": [{"aim": rule.aim, "name": rule.name, "costs": rule.costs} for rule in AIMS.values()],
    }


def run_out(row: PlanningRun) -> dict[str, Any]:
    """A run without its proposal."""
    return {
        "id": row.pk, "kind": row.kind, "first_day": row.first_day, "days": row.days,
        "technician_id": row.technician_id, "playbook_name": row.playbook_name, "seconds": row.seconds,
        "seed": row.seed, "state": row.state, "share": row.share, "iterations": row.iterations, "cost": row.cost,
        "failure": row.failure, "asked_at": to_moment(row.asked_at), "accepted_at": to_moment(row.accepted_at),
    }  # fmt: skip


def run_detail_out(row: PlanningRun) -> dict[str, Any]:
    return run_out(row) | {"proposal": row.proposal}

"""Wire shapes of placing, sending and undoing, one visit or many. Times are epoch seconds."""

from datetime import date
from typing import Annotated, Any, Literal

from ninja import Field, Schema

from apps.appointments.settling import How
from apps.board.inputs import Move, Outcome, Wanted
from apps.orders.schemas import Version, VersionIn, VisitOut
from apps.scheduling.schemas import PlacementIn, VerdictOut
from core.orders import Step
from foundation.moments import Moment
from foundation.schemas import Text

Id = Annotated[int, Field(ge=1, le=2**62)]


class FirstIn(Schema):
    """The first time that fits on somebody's day."""

    version: int = Version
    technician_id: Id
    day: date


class PlaceIn(PlacementIn):
    """`mates` go with the technician; left out: those who go already. `because`: why, where a limit asks for it."""

    version: int = Version
    because: Text = Field("", max_length=300)
    mates: list[Annotated[int, Field(ge=1, le=2**62)]] | None = Field(None, max_length=7)


class StretchIn(Schema):
    version: int = Version
    seconds: int = Field(ge=60, le=24 * 3600)


class ForwardIn(Schema):
    version: int = Version
    technician_id: Id
    start: Moment


class StepIn(VersionIn):
    step: Step
    note: Text = Field("", max_length=1000)
    # For "cancel": what the customer reads of it. The note is ours.
    tell: Text = Field("", max_length=600)


class PlacedOut(Schema):
    visit: VisitOut
    verdict: VerdictOut


class MoveIn(Schema):
    """Where a visit goes that gives way; without a technician: back to the backlog."""

    visit_id: Id
    version: int = Version
    technician_id: Id | None = None
    start: Moment | None = None

    def known(self) -> Move:
        return Move(**self.dict())


class GiveIn(Schema):
    """`moves`: what gives way, decided with it."""

    version: int = Version
    technician_id: Id
    start: Moment
    because: Text = Field("", max_length=300)
    moves: list[MoveIn] = Field(default_factory=list, max_length=20)


class VisitSeenIn(Schema):
    id: Id
    version: int = Version


class BulkIn(Schema):
    """What is to be done to many visits; see inputs.Wanted. With `preview` nothing changes."""

    visits: list[VisitSeenIn] = Field(min_length=1, max_length=200)
    kind: Literal["day", "give", "shift", "unplace", "cancel", "send", "lock", "unlock"]
    day: date | None = None
    technician_id: Id | None = None
    seconds: int = Field(0, ge=-14 * 86_400, le=14 * 86_400)
    because: Text = Field("", max_length=300)
    tell: Text = Field("", max_length=300)
    preview: bool = False

    def wanted(self) -> Wanted:
        return Wanted(
            kind=self.kind, day=self.day, technician_id=self.technician_id, seconds=self.seconds, because=self.because,
            tell=self.tell,
        )  # fmt: skip


class OutcomeOut(Schema):
    visit_id: int
    label: str
    sentence: str
    problem: str
    asks: bool
    warnings: list[str]


class BulkOut(Schema):
    done: int
    outcomes: list[OutcomeOut]


class SendIn(VersionIn):
    """`how` settles the promise of a visit that stands on another day: see apps.appointments.settling."""

    how: How | None = None


class SettledIn(Schema):
    visit_id: int = Field(ge=1, le=2**62)
    how: How


class SendDayIn(Schema):
    """Some days, of everybody or of one technician; `settled`: those that stand on another day than promised."""

    day: date
    days: int = Field(1, ge=1, le=14)
    technician_id: int | None = Field(None, ge=1, le=2**62)
    settled: list[SettledIn] = Field(default_factory=list, max_length=500)


class SentOut(Schema):
    """Visits sent, those whose customers are asked first, and those left because their promise is not settled."""

    sent: int
    asked: int
    left: int


class PlannedOut(Schema):
    """A visit that is to be handed over."""

    id: int
    version: int
    number: str
    site: str
    start: int


class UndoIn(Schema):
    change_id: int | None = Field(None, ge=1, le=2**62)


class UndoneOut(Schema):
    """`visit` is what was put back, if it was a visit."""

    visit: VisitOut | None
    sentence: str


class ChangeOut(Schema):
    """`intention` is the same for changes that go back together."""

    id: int
    at: int
    sentence: str
    visit_id: int | None
    intention: int | None


class ChangesOut(Schema):
    """One's own changes: what can be undone, newest first; and what can be done again, the next one first."""

    undo: list[ChangeOut]
    redo: list[ChangeOut]


def bulk_out(outcomes: list[Outcome]) -> dict[str, Any]:
    rows = [
        {"visit_id": row.visit_id, "label": row.label, "sentence": row.sentence, "problem": row.problem,
         "asks": row.asks, "warnings": list(row.warnings)}
        for row in outcomes
    ]  # fmt: skip
    return {"done": sum(1 for row in outcomes if not row.problem), "outcomes": rows}

"""What every deed that goes into a visit's report has in common."""

from collections.abc import Callable
from datetime import datetime
from typing import Any

from pydantic import BaseModel, ConfigDict

from apps.field.inputs import SentDeed
from apps.reports.inputs import Doing
from foundation.actors import Actor


class Shapeless(Exception):
    """Nothing can be made of a deed, whoever decides; the message says why."""


class Body(BaseModel):
    model_config = ConfigDict(extra="forbid")


Kind = tuple[type[Body], Callable[[Actor, datetime, SentDeed, Any], str]]


def doing_of(actor: Actor, now: datetime, sent: SentDeed) -> Doing:
    """A report takes what a phone's clock says, but for the future: of that there is none yet."""
    if sent.visit_id is None:
        raise Shapeless("This belongs to a visit.")
    # Decided at the office after somebody has left, it is still the doing of whoever did it.
    whose = sent.technician_id or actor.technician_id
    assert whose is not None  # only technicians have phones
    return Doing(visit_id=sent.visit_id, technician_id=whose, at=min(sent.happened_at, now))

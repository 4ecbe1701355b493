"""What happens to visits, for those who listen."""

from dataclasses import dataclass
from datetime import datetime
from typing import Literal

from apps.orders.models import Visit
from core.orders import Step
from foundation.actors import Actor

# Of a visit that is sent: nobody, when it is again what everybody was told before.
Told = Literal["everybody", "technicians", "nobody"]


@dataclass(frozen=True, kw_only=True)
class VisitStepped:
    """A step was taken. `told` are technicians who had been told what this step made untrue; `tell_customer` is
    what the customer is to read of it, in words that were read before."""

    visit: Visit
    step: Step
    at: datetime
    actor: Actor
    note: str
    told: tuple[int, ...] = ()
    tell_customer: str = ""
    # Who is told of a sending.
    tells: Told = "everybody"


@dataclass(frozen=True, kw_only=True)
class CustomerToCall:
    """What the customer was promised is not so any more, and a person has to say so."""

    visit: Visit
    why: str
    at: datetime


@dataclass(frozen=True, kw_only=True)
class ChangeTakenBack:
    """What led from one version of a visit to another was undone."""

    visit: Visit
    seen: int
    led_to: int
    at: datetime


@dataclass(frozen=True, kw_only=True)
class TimePromised:
    """A window was taken; the customer is to be told."""

    visit: Visit
    at: datetime


@dataclass(frozen=True, kw_only=True)
class PutOnStandby:
    """The customer would come forward, and is told that we know."""

    visit: Visit
    at: datetime

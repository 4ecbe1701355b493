"""The limits a plan can break, and whether a dispatcher may break them."""

from dataclasses import dataclass
from enum import StrEnum

from core.scheduling.model.reasons import Why


class Limit(StrEnum):
    SKILL = "skill"
    CERTIFICATE = "certificate"
    FORBIDDEN = "forbidden"
    REQUIRED = "required"
    AREA = "area"
    DURATION = "duration"
    LOCKED = "locked"
    ABSENCE = "absence"
    SHIFT = "shift"
    OVERTIME = "overtime"
    BREAK = "break"
    PROMISE = "promise"
    OPENING = "opening"
    EARLIEST = "earliest"
    DUE = "due"
    OVERLAP = "overlap"
    DRIVING = "driving"
    LONG_DRIVE = "long_drive"
    CREW = "crew"
    LINK = "link"
    PARTS = "parts"
    CAPACITY = "capacity"


@dataclass(frozen=True, kw_only=True)
class LimitRule:
    """What a limit is called and what it asks, in plain words.

    `refuses`: a placement by hand that breaks it is not saved.
    `asks`: a placement by hand that breaks it is saved when a reason is given, which is kept; what neither refuses
    nor asks is saved with a warning.
    `parameter`: what its number means, where a playbook may set one.
    `physical`: it cannot be switched off, because breaking it is not a choice.
    """

    limit: Limit
    refuses: bool
    name: str
    words: str
    asks: bool = False
    parameter: str = ""
    physical: bool = False


_RULES = (
    LimitRule(limit=Limit.LOCKED, refuses=True, name="Locked", physical=True,
              words="What is sent, under way or pinned stays where it is."),
    LimitRule(limit=Limit.DURATION, refuses=True, name="No duration", physical=True,
              words="A visit needs a duration before it is planned."),
    LimitRule(limit=Limit.SKILL, refuses=True, name="Skill",
              words="Whoever does a visit has every skill it needs, at its level."),
    LimitRule(limit=Limit.CERTIFICATE, refuses=True, name="Certificate",
              words="A certificate the work needs is valid on that day."),
    LimitRule(limit=Limit.FORBIDDEN, refuses=False, asks=True, name="Refused technician",
              words="A customer is not sent somebody they refused."),
    LimitRule(limit=Limit.REQUIRED, refuses=False, asks=True, name="Required technician",
              words="Where one technician is required, nobody else is sent."),
    LimitRule(limit=Limit.ABSENCE, refuses=True, name="Absence",
              words="Nobody works while they are absent."),
    LimitRule(limit=Limit.SHIFT, refuses=False, asks=True, name="Shift", physical=True,
              words="Work lies on a technician's shift."),
    LimitRule(limit=Limit.OVERTIME, refuses=False, asks=True, name="Overtime", parameter="at most this many minutes",
              words="Technicians are back by the end of the shift and the overtime each may do."),
    LimitRule(limit=Limit.OVERLAP, refuses=False, asks=True, name="Overlap", physical=True,
              words="One visit after the other."),
    LimitRule(limit=Limit.DRIVING, refuses=False, name="Driving", physical=True,
              words="There is time to drive from one visit to the next."),
    LimitRule(limit=Limit.LONG_DRIVE, refuses=False, name="Long drive", parameter="at most this many minutes",
              words="The drive between two visits is not too long."),
    LimitRule(limit=Limit.PROMISE, refuses=False, asks=True, name="Promise",
              parameter="may be missed by this many minutes",
              words="Work starts inside a window the customer was promised."),
    LimitRule(limit=Limit.OPENING, refuses=False, asks=True, name="Opening hours",
              words="Work is done while the site is open."),
    LimitRule(limit=Limit.BREAK, refuses=False, name="Break",
              words="The break is taken within its window, wherever the technician is."),
    LimitRule(limit=Limit.AREA, refuses=False, name="Area",
              words="Technicians work in their own areas."),
    LimitRule(limit=Limit.EARLIEST, refuses=False, asks=True, name="Earliest start",
              words="Work does not start before its earliest start."),
    LimitRule(limit=Limit.DUE, refuses=False, asks=True, name="Deadline",
              words="Work ends by its deadline; nothing is planned that would end after it."),
    LimitRule(limit=Limit.CREW, refuses=False, name="Crew", physical=True,
              words="All of a crew start together."),
    LimitRule(limit=Limit.LINK, refuses=False, asks=True, name="Link", physical=True,
              words="Linked visits keep their order, their gaps, and the technician where it must be the same."),
    LimitRule(limit=Limit.PARTS, refuses=False, name="Parts on the van",
              words="The parts a visit needs are on the van, or free at the depot where the shift starts."),
    LimitRule(limit=Limit.CAPACITY, refuses=False, name="Visits a day", parameter="at most this many visits",
              words="A technician is not given too many visits on one day."),
)  # fmt: skip
LIMITS: dict[Limit, LimitRule] = {rule.limit: rule for rule in _RULES}


@dataclass(frozen=True, kw_only=True)
class Broken:
    """A limit that does not hold: by how much (seconds, where it is a time), what it is about (the skill, the area, the
    certificate; empty where the limit says it), and why."""

    limit: Limit
    visit_id: int | None
    why: Why
    seconds: int = 0
    about: str = ""

    @property
    def sentence(self) -> str:
        return str(self.why)

    @property
    def refuses(self) -> bool:
        return LIMITS[self.limit].refuses

    @property
    def asks(self) -> bool:
        return LIMITS[self.limit].asks

"""The limits a day can break, and whether a dispatcher may break them."""

from dataclasses import dataclass
from enum import StrEnum


class Limit(StrEnum):
    SKILL = "skill"
    SHIFT = "shift"
    ABSENCE = "absence"
    OVERLAP = "overlap"
    DRIVING = "driving"
    BREAK = "break"
    PROMISE = "promise"
    AREA = "area"
    LOCKED = "locked"
    DURATION = "duration"
    DUE = "due"


@dataclass(frozen=True, kw_only=True)
class LimitRule:
    """`refuses`: a placement that breaks it is not saved; otherwise it is saved with a warning."""

    limit: Limit
    refuses: bool
    name: str


LIMITS: dict[Limit, LimitRule] = {
    rule.limit: rule
    for rule in (
        LimitRule(limit=Limit.LOCKED, refuses=True, name="Locked"),
        LimitRule(limit=Limit.DURATION, refuses=True, name="No duration"),
        LimitRule(limit=Limit.SKILL, refuses=True, name="Skill"),
        LimitRule(limit=Limit.ABSENCE, refuses=True, name="Absence"),
        LimitRule(limit=Limit.SHIFT, refuses=False, name="Shift"),
        LimitRule(limit=Limit.OVERLAP, refuses=False, name="Overlap"),
        LimitRule(limit=Limit.DRIVING, refuses=False, name="Driving"),
        LimitRule(limit=Limit.PROMISE, refuses=False, name="Promise"),
        LimitRule(limit=Limit.BREAK, refuses=False, name="Break"),
        LimitRule(limit=Limit.AREA, refuses=False, name="Area"),
        LimitRule(limit=Limit.DUE, refuses=False, name="Due"),
    )
}


@dataclass(frozen=True, kw_only=True)
class Broken:
    """A limit that does not hold: by how much (seconds, where it is a time), and why in words."""

    limit: Limit
    visit_id: int | None
    sentence: str
    seconds: int = 0

    @property
    def refuses(self) -> bool:
        return LIMITS[self.limit].refuses

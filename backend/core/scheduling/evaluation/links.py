"""What links between visits must not do."""

from collections.abc import Iterator
from dataclasses import dataclass

from core.orders.links import Link, LinkKind
from core.scheduling.model.limits import Broken, Limit
from core.scheduling.model.reasons import Code, why


@dataclass(frozen=True, kw_only=True)
class LinkEnd:
    """A tied visit as it stands: when its work starts and ends (None: not planned), and who goes."""

    label: str
    starts: int | None
    ends: int | None
    technicians: frozenset[int] = frozenset()


def link_broken(link: Link, one: LinkEnd, two: LinkEnd) -> Iterator[Broken]:
    """What does not hold of a link; it is said of its second visit, and only when that one is planned."""

    def broken(code: Code, seconds: int = 0, **given: int) -> Broken:
        reason = why(code, visit=two.label, other=one.label, **given)
        return Broken(limit=Limit.LINK, visit_id=link.second, why=reason, seconds=seconds)

    if two.starts is None:
        return
    if link.kind is LinkKind.SAME_TECHNICIAN:
        if one.starts is not None and not one.technicians & two.technicians:
            yield broken(Code.OTHER_TECHNICIANS)
    elif one.starts is None or one.ends is None:
        yield broken(Code.FOLLOWS_UNPLANNED if link.kind is LinkKind.AFTER else Code.STARTS_WITH_UNPLANNED)
    elif link.kind is LinkKind.TOGETHER:
        if apart := abs(two.starts - one.starts):
            yield broken(Code.STARTS_APART, apart, apart=apart)
    else:
        gap = two.starts - one.ends
        if gap < link.least:
            yield broken(Code.TOO_EARLY_AFTER, link.least - gap, early=link.least - gap)
        elif link.greatest is not None and gap > link.greatest:
            yield broken(Code.TOO_LATE_AFTER, gap - link.greatest, late=gap - link.greatest)

"""What links between visits must not do."""

from collections.abc import Iterator
from dataclasses import dataclass

from core.basics import minutes_in_words
from core.orders.links import Link, LinkKind
from core.scheduling.model.limits import Broken, Limit


@dataclass(frozen=True, kw_only=True)
class LinkEnd:
    """A tied visit as it stands: when its work starts and ends (None: not planned), and who goes."""

    label: str
    starts: int | None
    ends: int | None
    technicians: frozenset[int] = frozenset()


def link_broken(link: Link, one: LinkEnd, two: LinkEnd) -> Iterator[Broken]:
    """What does not hold of a link; it is said of its second visit, and only when that one is planned."""

    def broken(sentence: str, seconds: int = 0) -> Broken:
        return Broken(limit=Limit.LINK, visit_id=link.second, sentence=sentence, seconds=seconds)

    if two.starts is None:
        return
    if link.kind is LinkKind.SAME_HANDS:
        if one.starts is not None and not one.technicians & two.technicians:
            yield broken(f"{two.label} needs the same technicians as {one.label}")
    elif one.starts is None or one.ends is None:
        how = "comes after" if link.kind is LinkKind.AFTER else "starts with"
        yield broken(f"{two.label} {how} {one.label}, which is not planned")
    elif link.kind is LinkKind.TOGETHER:
        if apart := abs(two.starts - one.starts):
            yield broken(f"{two.label} starts {minutes_in_words(apart)} apart from {one.label}", apart)
    else:
        gap = two.starts - one.ends
        if gap < link.least:
            early = minutes_in_words(link.least - gap)
            yield broken(f"{two.label} starts {early} too early after {one.label}", link.least - gap)
        elif link.greatest is not None and gap > link.greatest:
            late = minutes_in_words(gap - link.greatest)
            yield broken(f"{two.label} starts {late} too late after {one.label}", gap - link.greatest)

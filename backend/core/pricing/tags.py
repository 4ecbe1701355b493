"""What documents come to by the tags of their lines. Tax plays no part in it."""

from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass

from core.pricing.totals import Document, totals


@dataclass(frozen=True, kw_only=True)
class TagSum:
    """Lines of one tag ("": without any): how many, on how many documents, and what they come to without tax."""

    tag: str
    documents: int
    lines: int
    net: int


@dataclass(frozen=True, kw_only=True)
class ByTag:
    """The tags, the largest amount first, and what is taken off whole documents; `net` is what is left of all.

    `documents` have lines that count.
    """

    tags: tuple[TagSum, ...]
    documents: int
    off: int
    net: int


def by_tag(documents: Iterable[Document]) -> ByTag:
    """Group what counts on documents by tag; parts and discounts on the whole add up to the documents' totals."""
    found: dict[str, list[int]] = defaultdict(lambda: [0, 0, 0])
    off = net = with_lines = 0
    for document in documents:
        counted = [line for line in document.lines if line.counts]
        with_lines += bool(counted)
        for tag in {line.tag for line in counted}:
            found[tag][0] += 1
        for line in counted:
            found[line.tag][1] += 1
            found[line.tag][2] += line.net
        sums = totals(document)
        off, net = off + sums.off, net + sums.net - sums.charges
    rows = [TagSum(tag=tag, documents=row[0], lines=row[1], net=row[2]) for tag, row in found.items()]
    ordered = tuple(sorted(rows, key=lambda row: (-row.net, row.tag)))
    return ByTag(tags=ordered, documents=with_lines, off=off, net=net)

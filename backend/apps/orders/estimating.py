"""What work will about cost, for whoever asks before it is ordered: the same lines that the order will be made with."""

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from math import ceil, floor

from apps.catalogue.filling import Work
from apps.catalogue.models import JobType
from apps.customers.models import Site
from apps.orders.amounts import Kept, known_length, lines_for
from apps.pricing.documents import Buyer, counted, unpriced
from core.basics import Interval
from core.pricing import Document, likely, totals


@dataclass(frozen=True, kw_only=True)
class Told:
    """A price to say on the phone, in smallest units.

    Attributes
    ----------
    low, high : rounded outwards to what one says; they hold what the lines come to, whenever in the window work begins.
    exact : what the lines of the order will come to, if work begins with the window.
    with_tax : whether all of them are with tax.
    lines : what it is made of: wording, and its amount without tax.
    """

    low: int
    high: int
    exact: int
    with_tax: bool
    lines: tuple[tuple[str, int], ...]
    unpriced: int


def told(*, job: JobType | None, site: Site, work: Work, buyer: Buyer, window: tuple[int, int] | None) -> Told | None:
    """What work of this kind costs about; None where there are no prices for it.

    Parameters
    ----------
    window
        Between which moments (epoch seconds) it begins; None: nobody knows yet.
    """
    with_tax = buyer.terms is None or buyer.terms.reads_with_tax
    seconds = work.duration_seconds or 3600
    starts = [None] if window is None else sorted({window[0], window[1]})
    spans = [None if start is None else Interval(start=start, end=start + seconds) for start in starts]
    longer = _longer(job, work)
    usual = [_lines(job, site, work, buyer, span, 1.0) for span in spans]
    if not usual[0] or unpriced(usual[0]) == len(usual[0]):
        return None
    late = [_lines(job, site, work, buyer, span, longer) for span in spans] if longer > 1 else []
    amounts = [_amount(rows, buyer, with_tax) for rows in (*usual, *late)]
    step = _step(max(amounts))
    return Told(
        low=floor(Fraction(min(amounts), step)) * step, high=ceil(Fraction(max(amounts), step)) * step,
        exact=amounts[0], with_tax=with_tax, unpriced=unpriced(usual[0]),
        lines=tuple((line.wording, line.net) for line in counted(usual[0], buyer) if line.counts),
    )  # fmt: skip


def _lines(
    job: JobType | None, site: Site, work: Work, buyer: Buyer, hours: Interval | None, stretched: float
) -> Kept:  # fmt: skip
    return lines_for(
        job.lines if job else (), buyer, seconds=work.duration_seconds, crew=work.crew, needs=tuple(work.needs),
        site=site, hours=hours, stretched=stretched,
    )  # fmt: skip


def _longer(job: JobType | None, work: Work) -> float:
    """How much longer than planned four in five jobs of the kind take at most; at least 1."""
    known = known_length(job)
    if known is None or not work.duration_seconds:
        return 1.0
    planned = Fraction(work.duration_seconds * work.crew, 3600)
    chance = likely(planned, known)
    return 1.0 if chance is None else max(1.0, float(chance.hours_at_80 / planned))


def _amount(rows: Kept, buyer: Buyer, with_tax: bool) -> int:
    found = totals(Document(lines=counted(rows, buyer)))
    return found.gross if with_tax else found.net


def _step(amount: int) -> int:
    """To what one rounds in speech: 184.20 to fives of whole money, 1,837 to fifties."""
    steps: Sequence[int] = (100, 500, 1_000, 5_000, 10_000, 50_000)
    return next((step for step in steps if amount < 100 * step), 100_000)

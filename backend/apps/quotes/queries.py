"""Reading quotes."""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from datetime import date

from django.db.models import Count, F, Q, QuerySet, Sum

from apps.board.models import Reminder
from apps.board.queries import reminders_about
from apps.orders.models import Visit
from apps.pricing.documents import Buyer
from apps.pricing.queries import today
from apps.quotes.models import Answer, Question, Quote, QuoteVersion
from core.orders import VisitState
from core.quotes import QuoteState, is_over
from foundation import audit, files
from foundation.errors import NotFound
from foundation.models import AuditEntry
from foundation.pages import Page, sorted_by

_WITH = (
    "customer__payer", "site__area", "asset", "job_type", "author", "order", "extra_work_on", "request", "visit__order",
)  # fmt: skip


def quote(quote_id: int) -> Quote:
    found = Quote.objects.select_related(*_WITH).filter(pk=quote_id).first()
    if found is None:
        raise NotFound("There is no such quote.", code="no_quote")
    return found


def buyer_of(quote: Quote) -> Buyer:
    """Whoever would pay: the customer, or who pays for them. Prices and tax as of today."""
    payer = quote.extra_work_on.payer_id if quote.extra_work_on else quote.customer.payer_id
    return Buyer(day=today(), customer_id=payer or quote.customer_id)


def versions_of(quote_id: int) -> list[QuoteVersion]:
    """The newest first, with what the customer said."""
    return list(QuoteVersion.objects.filter(quote_id=quote_id).select_related("answer").order_by("-number"))


def version_of(quote_id: int, version_id: int) -> QuoteVersion:
    """A version of a quote.

    Raises
    ------
    NotFound
    """
    found = QuoteVersion.objects.select_related("quote", "answer").filter(pk=version_id, quote_id=quote_id).first()
    if found is None:
        raise NotFound("There is no such version.", code="no_version")
    return found


def version_at(nonce: str) -> QuoteVersion:
    """What stands at an address; one that was revoked is not there any more.

    Raises
    ------
    NotFound
    """
    rows = QuoteVersion.objects.select_related("quote__customer").filter(nonce=nonce, revoked_at=None)
    found = rows.first()
    if found is None:
        raise NotFound("There is no quote at this address (any more).", code="no_quote")
    return found


def answer_to(version: QuoteVersion) -> Answer | None:
    """What the customer said to a version."""
    return Answer.objects.filter(version=version).first()


def questions_about(version_id: int) -> list[Question]:
    """What was asked at an address, in order."""
    return list(Question.objects.filter(version_id=version_id).order_by("id")[:50])


def current_version(quote: Quote) -> QuoteVersion | None:
    """The one the customer may answer."""
    if quote.state != QuoteState.SENT:
        return None
    return quote.versions.filter(replaced_at=None).order_by("-number").first()


def questions_of(quote_id: int) -> list[Question]:
    return list(Question.objects.filter(version__quote_id=quote_id).order_by("-id")[:100])


def surveys_of(quote_id: int) -> list[Visit]:
    """Visits that look at the place, in the order in which they were asked for."""
    rows = Visit.objects.with_whereabouts().select_related("technician").filter(survey__quote_id=quote_id)
    return list(rows.order_by("survey__pk"))


def files_at_hand(quote_id: int) -> set[int]:
    """Files that can be shown with a quote: its own, and what was seen at its surveys."""
    orders = Visit.objects.filter(survey__quote_id=quote_id).values_list("order_id", flat=True).distinct()
    records = [("quote", quote_id), *(("order", key) for key in orders)]
    return {row.pk for record in records for row in files.of(*record)}


def reminders_of(quote_id: int) -> list[Reminder]:
    return reminders_about("quote", quote_id)


def timeline(quote_id: int, *, cursor: str = "") -> Page[AuditEntry]:
    """Everything that happened to it, the newest first."""
    return audit.of({"quote": [quote_id]}, cursor)


def quotes_of_customer(customer_id: int) -> list[Quote]:
    """The newest first; not all that ever were."""
    rows = Quote.objects.select_related(*_WITH).filter(customer_id=customer_id)
    return list(rows.order_by("-id")[:30])


def quotes_of_order(order_id: int) -> list[Quote]:
    """The quote it came from, and those for more work on it."""
    rows = Quote.objects.select_related(*_WITH).filter(Q(order_id=order_id) | Q(extra_work_on_id=order_id))
    return list(rows.order_by("-id")[:30])


def quotes_at_visit(visit_id: int) -> list[Quote]:
    """Those that were written in the field during a visit."""
    return list(Quote.objects.select_related(*_WITH).filter(visit_id=visit_id).order_by("-id")[:30])


@dataclass(frozen=True, kw_only=True)
class QuoteFilters:
    """What is looked for; empty: not asked for. `waits` is "survey", "question", "discount" or "reminder"."""

    text: str = ""
    states: Sequence[str] = ()
    author_id: int | None = None
    customer_id: int | None = None
    job_type_id: int | None = None
    waits: str = ""
    made_from: date | None = None
    made_until: date | None = None


SORTS: Mapping[str, tuple[str, ...]] = {
    "newest": ("-pk",),
    "value": ("-net", "-pk"),
    "chance": ("-chance", "-net", "-pk"),
    "runs out": ("valid_until", "-pk"),
    "customer": ("customer__name", "-pk"),
}
# A survey that will still bring something to know.
_TO_COME = [state.value for state in VisitState if not state.is_ended]


def filtered(filters: QuoteFilters) -> QuerySet[Quote]:
    rows = Quote.objects.all()
    for word in filters.text.lower().split():
        rows = rows.filter(Q(words__contains=word) | Q(customer__name__icontains=word) | Q(site__name__icontains=word))
    if filters.states:
        rows = rows.filter(state__in=filters.states)
    for name in ("author_id", "customer_id", "job_type_id"):
        if (value := getattr(filters, name)) is not None:
            rows = rows.filter(**{name: value})
    if filters.made_from:
        rows = rows.filter(made_at__date__gte=filters.made_from)
    if filters.made_until:
        rows = rows.filter(made_at__date__lte=filters.made_until)
    return rows.filter(_WAITS[filters.waits]()) if filters.waits in _WAITS else rows


def _waits_for_survey() -> Q:
    surveyed = Visit.objects.filter(survey__isnull=False, state__in=_TO_COME).values("survey__quote_id")
    return Q(state=QuoteState.DRAFT, pk__in=surveyed)


def _waits_for_answer() -> Q:
    asked = Question.objects.filter(answered_at=None).values("version__quote_id")
    return Q(state=QuoteState.SENT, pk__in=asked)


def _waits_for_reminder() -> Q:
    reminded = Reminder.objects.filter(about="quote", done_at=None).values("about_id")
    return Q(pk__in=reminded)


_WAITS = {"survey": _waits_for_survey, "question": _waits_for_answer, "reminder": _waits_for_reminder}


@dataclass(frozen=True, kw_only=True)
class QuotePage:
    total: int | None
    rows: list[Quote]
    next: str | None
    surveys: Mapping[int, int]
    questions: Mapping[int, int]
    reminders: Mapping[int, Reminder]


def listed(filters: QuoteFilters, *, sort: str, cursor: str, size: int = 100) -> QuotePage:
    """A page of quotes with what each waits for; in a number of queries that does not depend on how many there are."""
    rows = filtered(filters)
    ids, following = sorted_by(rows, SORTS.get(sort, SORTS["newest"]), cursor, size=size)
    found = {row.pk: row for row in Quote.objects.select_related(*_WITH).filter(pk__in=ids)}
    return QuotePage(
        total=None if cursor else rows.count(), rows=[found[key] for key in ids if key in found], next=following,
        surveys=_counts(Visit.objects.filter(state__in=_TO_COME), "survey__quote_id", ids),
        questions=_counts(Question.objects.filter(answered_at=None), "version__quote_id", ids),
        reminders=_next_reminders(ids),
    )  # fmt: skip


def _counts(rows: QuerySet[Visit] | QuerySet[Question], name: str, ids: Collection[int]) -> dict[int, int]:
    grouped = rows.filter(**{f"{name}__in": ids}).order_by().values_list(name).annotate(count=Count("pk"))
    return dict(grouped)


def _next_reminders(ids: Collection[int]) -> dict[int, Reminder]:
    rows = Reminder.objects.select_related("person").filter(about="quote", about_id__in=ids, done_at=None)
    found: dict[int, Reminder] = {}
    for row in rows.order_by("at"):
        if row.about_id is not None:
            found.setdefault(row.about_id, row)
    return found


@dataclass(frozen=True, kw_only=True)
class StateSum:
    """How many quotes of a state, what they come to without tax, and that times their chance."""

    state: QuoteState
    count: int
    net: int
    likely: int


def pipeline(filters: QuoteFilters) -> list[StateSum]:
    """Sums per state of what the filters leave, counted by the database."""
    rows = filtered(filters).order_by().values("state")
    sums = rows.annotate(count=Count("pk"), whole=Sum("net"), weighed=Sum(F("net") * F("chance") / 100))
    by_state = {row["state"]: row for row in sums}
    found = []
    for state in QuoteState:
        row = by_state.get(state.value, {"count": 0, "whole": 0, "weighed": 0})
        likely = row["whole"] if state is QuoteState.APPROVED else row["weighed"] if state.is_open else 0
        found.append(StateSum(state=state, count=row["count"], net=row["whole"] or 0, likely=int(likely or 0)))
    return found


@dataclass(frozen=True, kw_only=True)
class LostFor:
    """Why quotes were lost, how many, and what they would have brought without tax."""

    why: str
    count: int
    net: int


def reasons(filters: QuoteFilters, *, won: bool) -> list[LostFor]:
    """Why quotes were won, or lost, the most frequent first."""
    states = [s.value for s in QuoteState if (s is QuoteState.APPROVED if won else s.is_lost)]
    rows = filtered(filters).filter(state__in=states).order_by().values("why")
    sums = rows.annotate(count=Count("pk"), net=Sum("net")).order_by("-count", "why")
    return [LostFor(why=row["why"], count=row["count"], net=row["net"] or 0) for row in sums]


def standing(version: QuoteVersion, quote: Quote, *, day: date) -> str:
    """Why a version cannot be approved (any more), in a sentence for the customer; nothing when it can."""
    answer = Answer.objects.filter(version=version).first()
    if answer is not None:
        return "This quote was approved." if answer.approved else "This quote was refused."
    if version.revoked_at is not None or quote.state == QuoteState.WITHDRAWN:
        return "This quote was withdrawn. Call us if you have questions."
    if version.replaced_at is not None:
        return "There is a newer version of this quote, at an address of its own. This one can no longer be approved."
    if quote.state == QuoteState.APPROVED:
        return "This quote was approved in another version."
    if quote.state == QuoteState.EXPIRED or is_over(version.valid_until, day):
        return "This quote has expired. Call us, and we will gladly make it again."
    return (
        "" if quote.state == QuoteState.SENT else "This quote can no longer be approved. Call us if you have questions."
    )

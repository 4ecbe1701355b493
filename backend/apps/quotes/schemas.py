"""Wire shapes of quotes. Times are epoch seconds, amounts the currency's smallest unit."""

from collections.abc import Mapping, Sequence
from datetime import date
from decimal import Decimal
from typing import Annotated, Any, Literal, Self

from ninja import Field, Schema

from apps.board.office_schemas import OfficeReminderOut
from apps.customers.schemas import AssetOut, CustomerOut, NamedOut, SiteOut
from apps.orders.amounts import yardstick
from apps.orders.models import Visit
from apps.pricing.document_schemas import (
    MOST_LINES,
    DiscountIn,
    DocumentLineIn,
    DocumentLineOut,
    LineKey,
    SumsOut,
    lines_out,
)
from apps.pricing.documents import Buyer
from apps.pricing.figuring import sums
from apps.quotes import queries
from apps.quotes.inputs import ContentFields, NewQuote, OptionFields, QuoteFields
from apps.quotes.models import Answer, Question, Quote, QuoteVersion
from core.quotes import QuoteState, QuoteStep
from foundation.moments import to_moment
from foundation.schemas import Text

_Id = Annotated[int, Field(ge=1, le=2**62)]
_Version = Annotated[int, Field(ge=1, le=2**31 - 1)]
_Long = Annotated[Text, Field(max_length=8000)]


class QuoteNewIn(Schema):
    """For whom, and what it begins with; see apps.quotes.inputs.NewQuote."""

    customer_id: _Id | None = None
    site_id: _Id | None = None
    asset_id: _Id | None = None
    job_type_id: _Id | None = None
    request_id: _Id | None = None
    order_id: _Id | None = None
    title: Text = Field("", max_length=160)
    scope: _Long = ""

    def new(self, *, visit_id: int | None = None) -> NewQuote:
        return NewQuote(**self.dict(), visit_id=visit_id)


class OptionIn(Schema):
    key: LineKey
    name: Text = Field("", max_length=80)
    summary: Text = Field("", max_length=2000)
    lines: list[DocumentLineIn] = Field(default_factory=list, max_length=MOST_LINES)
    discounts: list[DiscountIn] = Field(default_factory=list, max_length=10)
    duration_seconds: int | None = Field(None, ge=60, le=14 * 86_400)
    crew: int | None = Field(None, ge=1, le=8)

    def fields(self, *, sees_costs: bool) -> OptionFields:
        return OptionFields(
            key=self.key, name=self.name, summary=self.summary, duration_seconds=self.duration_seconds, crew=self.crew,
            lines=[line.fields(sees_costs=sees_costs) for line in self.lines],
            discounts=[one.fields() for one in self.discounts],
        )  # fmt: skip


class ContentIn(Schema):
    scope: _Long = ""
    introduction: Text = Field("", max_length=2000)
    closing: Text = Field("", max_length=2000)
    terms: _Long = ""
    technician_note: Text = Field("", max_length=4000)
    days: int = Field(30, ge=1, le=365)
    deposit_percent: Decimal = Field(Decimal(0), ge=0, le=100, max_digits=6, decimal_places=3)
    deposit_amount: int = Field(0, ge=0, le=10**11)
    pictures: list[_Id] = Field(default_factory=list, max_length=20)
    options: list[OptionIn] = Field(default_factory=list, max_length=4)

    def fields(self, *, sees_costs: bool) -> ContentFields:
        plain = {name: getattr(self, name) for name in ContentIn.model_fields if name != "options"}
        return ContentFields(**plain, options=[one.fields(sees_costs=sees_costs) for one in self.options])


class QuoteChangeIn(Schema):
    version: _Version
    title: Text = Field(max_length=160)
    site_id: _Id | None = None
    asset_id: _Id | None = None
    job_type_id: _Id | None = None
    contact_name: Text = Field("", max_length=120)
    contact_email: Text = Field("", max_length=254)
    contact_phone: Text = Field("", max_length=40)
    note: Text = Field("", max_length=4000)
    chance: int = Field(50, ge=0, le=100)
    extra_work: bool = True
    content: ContentIn

    def fields(self, *, sees_costs: bool) -> QuoteFields:
        plain = self.dict(exclude={"version", "content"})
        return QuoteFields(**plain, content=self.content.fields(sees_costs=sees_costs))


class OptionOut(Schema):
    key: str
    name: str
    summary: str
    lines: list[DocumentLineOut]
    discounts: list[DiscountIn]
    duration_seconds: int | None
    crew: int | None
    sums: SumsOut


class ContentOut(Schema):
    scope: str
    introduction: str
    closing: str
    terms: str
    technician_note: str
    days: int
    deposit_percent: Decimal
    deposit_amount: int
    pictures: list[int]
    options: list[OptionOut]

    @classmethod
    def of(cls, row: Quote, *, sees_costs: bool) -> Self:
        content, buyer = row.content, queries.buyer_of(row)
        names = ("scope", "introduction", "closing", "terms", "technician_note", "days", "pictures")
        return cls(
            **{name: content[name] for name in names}, deposit_percent=Decimal(content["deposit"]["percent"]),
            deposit_amount=content["deposit"]["amount"],
            options=[_option(one, row, buyer, sees_costs) for one in content["options"]],
        )  # fmt: skip


def _option(option: Mapping[str, Any], row: Quote, buyer: Buyer, sees_costs: bool) -> OptionOut:
    stick = yardstick(row.job_type)
    found = sums(option["lines"], option["discounts"], buyer, stick)
    return OptionOut(
        **{name: option[name] for name in ("key", "name", "summary", "duration_seconds", "crew")},
        lines=lines_out(option["lines"], sees_costs=sees_costs),
        discounts=[DiscountIn(**one) for one in option["discounts"]],
        sums=SumsOut.of(
            found, wanted=stick.per_hour, count=stick.known.count if stick.known else 0, sees_costs=sees_costs
        ),
    )  # fmt: skip


class AnswerOut(Schema):
    """What the customer said; `option` and `ticked` are what was taken."""

    approved: bool
    at: int
    name: str
    address: str
    why: str
    note: str
    option: str
    ticked: list[str]
    gross: int | None
    digest: str
    drawn: bool
    paper_id: int | None

    @classmethod
    def of(cls, row: Answer) -> Self:
        return cls(
            approved=row.approved, at=int(row.at.timestamp()), name=row.name, address=row.address, why=row.why,
            note=row.note, option=row.signed.get("option", ""), ticked=row.signed.get("ticked", []),
            gross=row.signed.get("gross"), digest=row.digest, drawn=row.drawing is not None, paper_id=row.paper_id,
        )  # fmt: skip


class OptionNameOut(Schema):
    key: str
    name: str


class QuoteVersionOut(Schema):
    """What was shown. `path` leads the customer to it, while it may be answered; `problem`: why it may not."""

    id: int
    number: int
    how: str
    email: str
    sent: int
    sent_by: str
    valid_until: date
    changes: list[str]
    digest: str
    first_seen: int | None
    seen_count: int
    path: str
    problem: str
    options: list[OptionNameOut]
    answer: AnswerOut | None

    @classmethod
    def of(cls, row: QuoteVersion, quote: Quote, day: date) -> Self:
        problem = queries.standing(row, quote, day=day)
        return cls(
            id=row.pk, number=row.number, how=row.how, email=row.email, sent=int(row.sent_at.timestamp()),
            sent_by=row.sent_by, valid_until=row.valid_until, changes=row.changes, digest=row.digest,
            first_seen=to_moment(row.first_seen_at), seen_count=row.seen_count,
            path="" if row.revoked_at else f"/quote/{row.nonce}", problem=problem,
            options=[OptionNameOut(key=one["key"], name=one["name"]) for one in row.content["options"]],
            answer=AnswerOut.of(row.answer) if hasattr(row, "answer") else None,
        )  # fmt: skip


class QuestionOut(Schema):
    id: int
    version: int
    at: int
    name: str
    text: str
    answer: str
    answered: int | None
    answered_by: str

    @classmethod
    def of(cls, row: Question, number: int) -> Self:
        return cls(
            id=row.pk, version=number, at=int(row.at.timestamp()), name=row.name, text=row.text, answer=row.answer,
            answered=to_moment(row.answered_at), answered_by=row.answered_by,
        )  # fmt: skip


class SurveyOut(Schema):
    """A visit that looks at the place; its photos and answers are with its order."""

    visit_id: int
    order_id: int
    label: str
    title: str
    state: str
    start: int | None
    technician: str | None
    outcome: str

    @classmethod
    def of(cls, visit: Visit) -> Self:
        return cls(
            visit_id=visit.pk, order_id=visit.order_id, label=visit.label, title=visit.title or visit.order.title,
            state=visit.state, start=to_moment(visit.start),
            technician=visit.technician.name if visit.technician else None, outcome=visit.outcome,
        )  # fmt: skip


class QuoteRowOut(Schema):
    """A quote in a line of a list; `waits` is what it waits for, in words."""

    id: int
    version: int
    number: str
    state: QuoteState
    revising: bool
    title: str
    customer_id: int
    customer: str
    site: str
    author: str
    author_id: int
    net: int
    gross: int
    chance: int
    made: int
    sent: int | None
    valid_until: date | None
    closed: int | None
    why: str
    waits: list[str]
    reminder: OfficeReminderOut | None

    @classmethod
    def of(cls, row: Quote, page: queries.QuotePage | None = None) -> Self:
        names = ("version", "number", "revising", "title", "customer_id", "author_id", "net", "gross", "chance",
                 "valid_until", "why")  # fmt: skip
        reminder = page.reminders.get(row.pk) if page else None
        return cls(
            id=row.pk, state=row.state_now, customer=row.customer.name, site=row.site.name if row.site else "",
            author=row.author.name, made=int(row.made_at.timestamp()), sent=to_moment(row.sent_at),
            closed=to_moment(row.closed_at), waits=_waits(row, page) if page else [],
            reminder=OfficeReminderOut.of(reminder) if reminder else None,
            **{name: getattr(row, name) for name in names},
        )  # fmt: skip


def _waits(row: Quote, page: queries.QuotePage) -> list[str]:
    found = []
    if surveys := page.surveys.get(row.pk):
        found.append("a survey" if surveys == 1 else f"{surveys} surveys")
    if questions := page.questions.get(row.pk):
        found.append("an answer" if questions == 1 else f"{questions} answers")
    return found


class QuoteOut(QuoteRowOut):
    """All about a quote. `steps` is what can be done now; `discount_problem` why it cannot be shown to the customer yet
    by whoever asks, `may_agree` whether they could agree to the discount."""

    payer: NamedOut | None
    customer_whole: CustomerOut
    site_whole: SiteOut | None
    asset: AssetOut | None
    job_type_id: int | None
    job_type: str | None
    contact_name: str
    contact_email: str
    contact_phone: str
    note: str
    why_note: str
    given: int
    agreed: int
    agreed_by: str
    steps: list[QuoteStep]
    editable: bool
    discount_problem: str
    may_agree: bool
    request_id: int | None
    request: str | None
    extra_work_on_id: int | None
    extra_work_on: str | None
    order_id: int | None
    order: str | None
    visit_id: int | None
    content: ContentOut
    versions: list[QuoteVersionOut]
    questions: list[QuestionOut]
    surveys: list[SurveyOut]
    reminders: list[OfficeReminderOut]


class QuoteSendIn(Schema):
    version: _Version
    how: Literal["e-mail", "shown", "on paper"]
    email: Text = Field("", max_length=254)


class WithdrawIn(Schema):
    version: _Version
    why: Text = Field(max_length=60)
    note: Text = Field("", max_length=300)


class OnPaperIn(Schema):
    """The customer agreed by word or on paper."""

    version: _Version
    option: LineKey
    ticked: list[LineKey] = Field(default_factory=list, max_length=MOST_LINES)
    name: Text = Field(max_length=120)


class SurveyIn(Schema):
    what: Text = Field(max_length=400)
    minutes: int | None = Field(None, ge=5, le=1440)


class QuestionAnswerIn(Schema):
    text: Text = Field(max_length=2000)


class QuoteFiltersIn(Schema):
    text: Text = Field("", max_length=200)
    states: list[QuoteState] = Field(default_factory=list, max_length=10)
    author_id: _Id | None = None
    customer_id: _Id | None = None
    job_type_id: _Id | None = None
    waits: Literal["", "survey", "question", "reminder"] = ""
    made_from: date | None = None
    made_until: date | None = None

    def filters(self) -> queries.QuoteFilters:
        plain: dict[str, Any] = self.dict(exclude={"states"})
        return queries.QuoteFilters(**plain, states=tuple(state.value for state in self.states))


class QuoteListIn(Schema):
    filters: QuoteFiltersIn = Field(default_factory=lambda: QuoteFiltersIn.model_validate({}))
    sort: Text = Field("newest", max_length=20)
    cursor: Text = Field("", max_length=600)


class StateSumOut(Schema):
    state: QuoteState
    count: int
    net: int
    likely: int


class QuoteReasonOut(Schema):
    why: str
    count: int
    net: int


class QuotesOut(Schema):
    """A page of quotes; the sums are of all that the filters leave, and come with the first page."""

    total: int | None
    next: str | None
    rows: list[QuoteRowOut]
    sums: list[StateSumOut]
    won: list[QuoteReasonOut]
    lost: list[QuoteReasonOut]


def state_sums(rows: Sequence[queries.StateSum]) -> list[StateSumOut]:
    return [StateSumOut(state=row.state, count=row.count, net=row.net, likely=row.likely) for row in rows]


def reasons_out(rows: Sequence[queries.LostFor]) -> list[QuoteReasonOut]:
    return [QuoteReasonOut(why=row.why, count=row.count, net=row.net) for row in rows]

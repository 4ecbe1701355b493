"""Wire shapes of what a customer reads and says at the address of a quote. Nothing of costs is in them."""

import base64
import binascii
from datetime import date
from typing import Annotated, Any, Self

from ninja import Field, Schema

from apps.pricing.document_schemas import LineKey, NamedAmountOut, TotalsOut
from apps.quotes.content import deposit_of
from apps.quotes.models import Answer, Question, QuoteVersion
from apps.quotes.presenting import amounts, attachments, options, pictures
from core.pricing import Line, many, with_tax
from core.quotes import Option
from foundation.errors import Rejected
from foundation.moments import to_moment
from foundation.schemas import Text

_Name = Annotated[Text, Field(max_length=120)]


class ReadLineOut(Schema):
    """A line as the customer reads it; `price` and `amount` are with tax where `with_tax` is said."""

    key: str
    wording: str
    many: str
    price: int
    amount: int
    discount: str
    off: int
    optional: bool
    chosen: bool

    @classmethod
    def of(cls, line: Line, *, amount: int, gross: bool) -> Self:
        return cls(
            key=line.key, wording=line.wording, many=many(line.quantity, line.unit),
            price=with_tax(line.unit_price, line.tax) if gross else line.unit_price,
            amount=amount,
            discount=line.discount.name if line.discount and line.off else "", off=line.off, optional=line.optional,
            chosen=line.chosen,
        )  # fmt: skip


class ReadOptionOut(Schema):
    key: str
    name: str
    summary: str
    lines: list[ReadLineOut]
    discounts: list[NamedAmountOut]
    totals: TotalsOut
    deposit: int


class AttachmentOut(Schema):
    """A file that goes with a quote; `size` in bytes."""

    id: int
    name: str
    size: int


class PictureOut(Schema):
    name: str
    source: str


class SaidOut(Schema):
    """A question, and what was answered."""

    at: int
    name: str
    text: str
    answer: str
    answered: int | None

    @classmethod
    def of(cls, row: Question) -> Self:
        return cls(
            at=int(row.at.timestamp()), name=row.name, text=row.text, answer=row.answer,
            answered=to_moment(row.answered_at),
        )  # fmt: skip


class TakenOut(Schema):
    """What was approved, or that it was refused."""

    approved: bool
    at: int
    name: str
    option: str
    ticked: list[str]
    gross: int | None
    digest: str

    @classmethod
    def of(cls, row: Answer) -> Self:
        return cls(
            approved=row.approved, at=int(row.at.timestamp()), name=row.name, option=row.signed.get("option", ""),
            ticked=row.signed.get("ticked", []), gross=row.signed.get("gross"), digest=row.digest,
        )  # fmt: skip


class PresentedOut(Schema):
    """A version as the customer reads it. `problem`: why it cannot be answered (any more)."""

    number: str
    version: int
    title: str
    day: date
    valid_until: date
    currency: str
    with_tax: bool
    company: dict[str, str]
    customer: str
    contact: str
    site: str
    address: str
    equipment: str
    author: str
    introduction: str
    scope: str
    closing: str
    terms: str
    changes: list[str]
    options: list[ReadOptionOut]
    pictures: list[PictureOut]
    attachments: list[AttachmentOut]
    digest: str
    problem: str
    answer: TakenOut | None
    questions: list[SaidOut]

    @classmethod
    def of(cls, row: QuoteVersion, *, problem: str, answer: Answer | None, questions: list[Question]) -> Self:
        content: dict[str, Any] = row.content
        names = ("number", "version", "title", "currency", "with_tax", "company", "customer", "contact", "site",
                 "address", "equipment", "author", "introduction", "scope", "closing", "terms", "day",
                 "valid_until")  # fmt: skip
        return cls(
            **{name: content[name] for name in names}, changes=row.changes, digest=row.digest, problem=problem,
            options=[_option(row, option) for option in options(row)],
            pictures=[PictureOut(**one) for one in pictures(row)],
            attachments=[AttachmentOut(id=one.pk, name=one.name, size=one.size) for one in attachments(row)],
            answer=TakenOut.of(answer) if answer else None,
            questions=[SaidOut.of(one) for one in questions],
        )  # fmt: skip


def _option(row: QuoteVersion, option: Option) -> ReadOptionOut:
    found = option.totals()
    gross = bool(row.content["with_tax"])
    read = amounts(option, with_tax=gross)
    return ReadOptionOut(
        key=option.key, name=option.name, summary=option.summary,
        lines=[
            ReadLineOut.of(line, amount=amount, gross=gross)
            for line, amount in zip(option.lines, read.lines, strict=True)
        ],
        discounts=[NamedAmountOut(name=name, amount=amount) for name, amount in read.discounts],
        totals=TotalsOut.of(found),
        deposit=deposit_of(row.content).of(found.gross),
    )  # fmt: skip


class ChoiceIn(Schema):
    """One way to do it, with what was ticked."""

    option: LineKey
    ticked: list[LineKey] = Field(default_factory=list, max_length=300)


class ChoiceOut(Schema):
    totals: TotalsOut
    deposit: int


class ApproveIn(ChoiceIn):
    """`gross` is the total that was shown, `digest` that of the version that was read; `drawing` a PNG in base 64."""

    name: _Name
    drawing: Text | None = Field(None, max_length=125_000)
    digest: Text = Field(max_length=64)
    gross: int = Field(ge=-(10**13), le=10**13)
    accepts_terms: bool = False

    def picture(self) -> bytes | None:
        """Raises Rejected for what is no base 64."""
        if not self.drawing:
            return None
        try:
            return base64.b64decode(self.drawing.removeprefix("data:image/png;base64,"), validate=True)
        except (binascii.Error, ValueError) as error:
            raise Rejected("The signature could not be read. Sign again.", field="drawing") from error


class RefuseIn(Schema):
    name: _Name
    why: Text = Field("", max_length=60)
    note: Text = Field("", max_length=1000)


class AskIn(Schema):
    name: _Name
    text: Text = Field(max_length=2000)

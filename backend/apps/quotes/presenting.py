"""A version as the customer reads it, and as a file to print."""

import base64
from collections.abc import Collection, Iterator, Mapping
from contextlib import suppress
from dataclasses import dataclass
from datetime import date
from typing import Any

from django.conf import settings
from django.template.loader import render_to_string

from apps.company.queries import logo, logo_mark, time_zone
from apps.pricing.documents import Buyer
from apps.quotes.content import deposit_of, options_of
from apps.quotes.models import Answer, QuoteVersion
from core.calendars import day_words, time_words
from core.pricing import Line, Totals, WithTax, digits_of, many, read_with_tax, with_tax
from core.quotes import CannotBeChosen, Option, chosen
from foundation import files
from foundation.errors import NotFound
from foundation.models import StoredFile
from foundation.papers import font


@dataclass(frozen=True, kw_only=True)
class Sum:
    """What a choice comes to: what is paid before work begins is `deposit`."""

    totals: Totals
    deposit: int


def options(version: QuoteVersion) -> tuple[Option, ...]:
    """The ways to do it, as they were frozen."""
    return options_of(version.content, Buyer(day=date.fromisoformat(version.content["day"])))


def total_of(version: QuoteVersion, key: str, ticked: Collection[str]) -> Sum:
    """What a choice costs.

    Raises
    ------
    CannotBeChosen
    """
    found = chosen(options(version), key, ticked).totals(set(ticked))
    return Sum(totals=found, deposit=deposit_of(version.content).of(found.gross))


def amounts(option: Option, *, with_tax: bool) -> WithTax:
    """What stands at each line and discount, with tax or without: either way it adds up to the total."""
    document = option.document()
    if with_tax:
        return read_with_tax(document)
    return WithTax(lines=tuple(line.net for line in option.lines), discounts=option.totals().discounts)


def money_words(amount: int, currency: str) -> str:
    """ "EUR 1,250.00": as it stands on paper, for readers of any language."""
    digits = digits_of(currency)
    return f"{currency} {amount / 10**digits:,.{digits}f}"


def quote_pdf(version: QuoteVersion, answer: Answer | None = None) -> bytes:
    """The version on paper, with the company's letterhead and pictures; with what was signed, if it was.

    Raises
    ------
    NotFound
    """
    from weasyprint import HTML  # it takes a second to load, and only printing needs it

    page = render_to_string("quotes/quote.html", _words(version, answer))
    found: bytes = HTML(string=page, base_url=str(settings.ROOT)).write_pdf()
    return found


def _words(version: QuoteVersion, answer: Answer | None) -> dict[str, Any]:
    content: Mapping[str, Any] = version.content
    currency = content["currency"]
    return {
        "content": content,
        "company": content["company"],
        "logo": base64.b64encode(logo()).decode() if logo_mark() else "",
        "day": day_words(date.fromisoformat(content["day"]), weekday=False, year=True),
        "valid_until": day_words(date.fromisoformat(content["valid_until"]), weekday=False, year=True),
        "options": [_option(option, content, currency) for option in options(version)],
        "pictures": pictures(version),
        "attachments": [row.name for row in attachments(version)],
        "changes": version.changes,
        "signed": _signed(version, answer, currency) if answer is not None else None,
        "digest": version.digest,
        "with_tax": content["with_tax"],
        "font": font(),
    }


def _option(option: Option, content: Mapping[str, Any], currency: str) -> dict[str, Any]:
    found, read = option.totals(), amounts(option, with_tax=content["with_tax"])
    deposit = deposit_of(content).of(found.gross)
    return {
        "name": option.name, "summary": option.summary,
        "lines": [
            _line(line, amount, currency, content["with_tax"])
            for line, amount in zip(option.lines, read.lines, strict=True)
        ],
        "discounts": [(name, money_words(-amount, currency)) for name, amount in read.discounts],
        "net": money_words(found.net, currency), "gross": money_words(found.gross, currency),
        "taxes": [
            (f"{row.percent.normalize():f} %" if row.percent else row.reason or row.category.value,
             money_words(row.base, currency), money_words(row.tax, currency))
            for row in found.taxes
        ],
        "deposit": money_words(deposit, currency) if deposit else "",
    }  # fmt: skip


def _line(line: Line, amount: int, currency: str, gross: bool) -> dict[str, Any]:
    each = with_tax(line.unit_price, line.tax) if gross else line.unit_price
    return {
        "wording": line.wording, "quantity": many(line.quantity, line.unit),
        "price": money_words(each, currency), "optional": line.optional, "chosen": line.chosen,
        "discount": f"{line.discount.name}: {money_words(-line.off, currency)}" if line.discount and line.off else "",
        "net": money_words(amount, currency),
    }  # fmt: skip


def _signed(version: QuoteVersion, answer: Answer, currency: str) -> dict[str, Any]:
    local = answer.at.astimezone(time_zone())
    key, ticked = answer.signed.get("option", ""), answer.signed.get("ticked", [])
    try:
        option = chosen(options(version), key, ticked)
    except CannotBeChosen:
        option = None
    return {
        "approved": answer.approved, "name": answer.name, "address": answer.address,
        "at": f"{day_words(local, year=True)} {time_words(local)} ({local.tzname()})",
        "option": option.name if option else "",
        "ticked": [line.wording for line in option.lines if line.key in ticked] if option else [],
        "gross": money_words(answer.signed["gross"], currency) if "gross" in answer.signed else "",
        "drawing": base64.b64encode(bytes(answer.drawing)).decode() if answer.drawing else "",
        "digest": answer.digest, "note": answer.note,
    }  # fmt: skip


_PICTURES = ("image/png", "image/jpeg", "image/webp")


def _shown_files(version: QuoteVersion) -> Iterator[StoredFile]:
    """Files that go with it; those that are gone are left out."""
    for key in version.content["pictures"]:
        with suppress(NotFound):
            yield files.one(key)


def pictures(version: QuoteVersion) -> list[dict[str, str]]:
    """Its pictures, whole."""
    found = []
    for row in _shown_files(version):
        if row.media_type in _PICTURES:
            with row.content.open("rb") as source:
                data = base64.b64encode(source.read()).decode()
            found.append({"name": row.name, "source": f"data:{row.media_type};base64,{data}"})
    return found


def attachments(version: QuoteVersion) -> list[StoredFile]:
    """What goes with it and is no picture: data sheets, drawings."""
    return [row for row in _shown_files(version) if row.media_type not in _PICTURES]

"""Quotes of Hallam & Reyne: forty of the last weeks in all states, and a year of won and lost ones."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from decimal import Decimal
from typing import Any

import numpy as np

from apps.board.models import Reminder
from apps.catalogue.models import JobType
from apps.company.numbers import take_numbers
from apps.company.queries import company, settings, time_zone
from apps.customers.models import Customer
from apps.orders.models import Visit, WorkOrder
from apps.people.models import Account
from apps.pricing.documents import Buyer
from apps.pricing.inputs import DiscountFields, LineFields
from apps.pricing.models import Item
from apps.pricing.queries import with_own_prices
from apps.quotes.content import Letterhead, frozen_content, kept, options_of
from apps.quotes.inputs import ContentFields, OptionFields
from apps.quotes.models import Answer, Question, Quote, QuoteVersion, Survey
from core.calendars import epoch
from core.quotes import digest, most_given
from foundation.moments import to_datetime

# What is asked for, and the ways to do it: name, sentence, hours, lines (wording, how many, whether one may choose it).
_Way = tuple[str, str, float, tuple[tuple[str, str, bool], ...]]


@dataclass(frozen=True, kw_only=True)
class Idea:
    title: str
    job: str
    scope: str
    ways: tuple[_Way, ...]


IDEAS = (
    Idea(
        title="Door drive of the goods lift", job="door-open",
        scope="The landing doors on the ground floor jam in damp weather. The drive is worn; its spare parts run out.",
        ways=(
            ("Repair the drive", "It will do for another two or three years.", 3, (
                ("Hour of a lift mechanic", "3", False), ("Drive belt, 2.5 m", "1", False),
                ("Door roller, 56 mm", "8", False), ("Small materials", "1", False),
            )),
            ("Replace the drive", "A new drive with five years of warranty; it uses half the current.", 8, (
                ("Hour of a lift mechanic", "8", False), ("Door drive, type M", "1", False),
                ("Light curtain, 64 beams", "1", True), ("Disposal of an old drive", "1", False),
            )),
        ),
    ),
    Idea(
        title="New ropes and sheave", job="rope",
        scope="At the yearly check the ropes were at three quarters of what is allowed.",
        ways=(
            ("Ropes only", "", 16, (
                ("Hour of a lift mechanic", "32", False), ("Suspension rope, metre, 10 mm", "120", False),
            )),
            ("Ropes and sheave", "Spares a second closure next year.", 24, (
                ("Hour of a lift mechanic", "46", False), ("Suspension rope, metre, 10 mm", "120", False),
                ("Traction sheave, 440 mm", "1", False),
            )),
        ),
    ),
    Idea(
        title="Emergency telephone over the mobile network", job="controller",
        scope="The telephone line of the house ends in spring. The lift needs another way to call for help.",
        ways=(("", "", 3, (
            ("Hour of an electrician", "3", False), ("Emergency telephone, mobile network", "1", False),
            ("Emergency lamp, 3 h", "1", True),
        )),),
    ),
    Idea(
        title="Frequency inverter for the passenger lift", job="controller",
        scope="The lift stops with a jolt between the third and the fourth floor; the inverter reports overheating.",
        ways=(
            ("Overhaul", "", 6, (("Hour of a controls engineer", "6", False), ("Small materials", "2", False))),
            ("New inverter", "", 9, (
                ("Hour of a controls engineer", "9", False), ("Frequency inverter, 7.5 kW", "1", False),
            )),
            ("New inverter and board", "Both are of one age; the board would follow within a few years.", 14, (
                ("Hour of a controls engineer", "14", False), ("Frequency inverter, 7.5 kW", "1", False),
                ("Control board, basic", "1", False),
            )),
        ),
    ),
    Idea(
        title="Light curtains on all landings", job="door-open",
        scope="Doors close on people. Light curtains on five landings instead of the single beam.",
        ways=(("", "", 7, (
            ("Hour of a fitter", "7", False), ("Light curtain, 32 beams", "5", False),
            ("Position indicator, matrix", "5", True),
        )),),
    ),
    Idea(
        title="Escalator: steps, chain and handrail", job="upkeep-esc",
        scope="Wear on chain and comb plates; the handrail is cut in two places.",
        ways=(
            ("Chain and comb plates", "", 18, (
                ("Hour of a lift mechanic", "36", False), ("Step chain, metre, wide", "24", False),
                ("Comb plate, middle", "2", False),
            )),
            ("With a new handrail", "", 24, (
                ("Hour of a lift mechanic", "48", False), ("Step chain, metre, wide", "24", False),
                ("Comb plate, middle", "2", False), ("Handrail, metre, black", "38", False),
            )),
        ),
    ),
    Idea(
        title="Yearly checks of twelve fire doors", job="upkeep-door",
        scope="The insurer asks for a yearly check of all fire doors, with a report.",
        ways=(("", "", 5, (("Yearly check of a fire door", "12", False),)),),
    ),
)  # fmt: skip
# (state, how many days ago it was sent, or begun)
RECENT = (
    *(("draft", back) for back in (0, 0, 1, 1, 2, 3, 4, 6, 9, 13)),
    *(("sent", back) for back in (0, 1, 2, 3, 4, 6, 8, 9, 12, 15, 19, 26)),
    *(("approved", back) for back in (2, 5, 9, 12, 16, 21, 27)),
    *(("refused", back) for back in (4, 8, 13, 18, 24)),
    *(("expired", back) for back in (33, 36, 41, 48)),
    *(("withdrawn", back) for back in (7, 22)),
)
PAST = 120
WON = 0.58
_WHY = ("too dear", "somebody else does it", "not done at all", "too late", "too dear")
AUTHORS = ("ivo.brandt@hallamreyne.example", "dora.quill@hallamreyne.example", "milo.tarn@hallamreyne.example")


class _Maker:
    """Makes quotes that came about at some time; nothing is saved before `save`."""

    def __init__(self, random: np.random.Generator, now: int, jobs: dict[str, JobType]) -> None:
        self.random, self.now, self.jobs = random, to_datetime(now), jobs
        self.keys = dict(Item.objects.values_list("wording", "key"))
        self.authors = list(Account.objects.filter(email__in=AUTHORS).order_by("pk"))
        self.company, self.settings = company(), settings()
        self.known: dict[tuple[str, int], dict[str, Any]] = {}
        self.quotes: list[Quote] = []
        self.versions: list[QuoteVersion] = []
        self.answers: list[Answer] = []

    def at(self, days: int, hour: int) -> datetime:
        """An hour of the office so many days ago, on a working day; never after now."""
        day = np.busday_offset(self.now.date() - timedelta(days=days), 0, roll="backward").astype(date)
        return min(self.now - timedelta(minutes=20), to_datetime(epoch(day, time(hour, 17), time_zone())))

    def content(self, idea: Idea, off: int) -> dict[str, Any]:
        """The content of a draft; made once for all that are alike."""
        if (idea.title, off) not in self.known:
            fields = ContentFields(
                scope=idea.scope, introduction=self.settings.quote_introduction,
                closing=self.settings.quote_closing, terms=self.settings.quote_terms, days=30,
                deposit_percent=Decimal(30 if len(idea.ways) == 3 else 0),
                options=[self._option(way, key, off) for way, key in zip(idea.ways, "abcd", strict=False)],
            )  # fmt: skip
            self.known[idea.title, off] = kept(fields, Buyer(day=date(2026, 11, 1)))
        return self.known[idea.title, off]

    def _option(self, way: _Way, key: str, off: int) -> OptionFields:
        name, summary, hours, lines = way
        return OptionFields(
            key=key, name=name, summary=summary, duration_seconds=round(hours * 3600), crew=2 if hours > 12 else 1,
            lines=[
                LineFields(key=f"l{number}", wording="", item=self.keys[words], quantity=Decimal(many), optional=may)
                for number, (words, many, may) in enumerate(lines, start=1)
            ],
            discounts=[DiscountFields(name="Regular customer", percent=Decimal(off))] if off else [],
        )  # fmt: skip

    def quote(self, idea: Idea, order: WorkOrder, state: str, sent: datetime, *, off: int = 0) -> Quote:
        """A quote for the customer and site of an order that is like it."""
        content = self.content(idea, off)
        option = options_of(content, Buyer(day=date(2026, 11, 1)))
        first = option[0].totals()
        customer = order.customer
        found = Quote(
            state=state, title=idea.title, customer=customer, site=order.site, asset=order.asset,
            job_type=self.jobs.get(idea.job), author=self.authors[int(self.random.integers(len(self.authors)))],
            contact_name=order.contact_name or _person(customer), contact_email=customer.email,
            contact_phone=customer.phone, content=content, net=first.net, gross=first.gross,
            given=most_given(option), chance=int(self.random.choice((20, 40, 50, 60, 80))),
            made_at=sent - timedelta(minutes=int(self.random.integers(5, 90))),
            agreed=most_given(option) if off > 10 and state != "draft" else 0,
        )  # fmt: skip
        self.quotes.append(found)
        if state != "draft":
            self._send(found, sent)
        return found

    def _send(self, quote: Quote, at: datetime) -> None:
        day, valid_until = at.date(), at.date() + timedelta(days=30)
        ours, site = self.company, quote.site
        head = Letterhead(
            number="", version=1, title=quote.title, day=day, valid_until=valid_until, currency=ours.currency,
            company={"name": ours.name, "address": ours.address, "phone": ours.phone, "email": ours.email,
                     "tax_number": ours.tax_number},
            customer=quote.customer.name, contact=quote.contact_name, site=site.name if site else "",
            address=site.address if site else "", equipment=quote.asset.words if quote.asset else "",
            author=quote.author.name, with_tax=True,
        )  # fmt: skip
        opened = self.random.random() < 0.8 or quote.state in ("approved", "refused")
        self.versions.append(
            QuoteVersion(
                quote=quote, number=1, content=frozen_content(quote.content, Buyer(day=date(2026, 11, 1)), head),
                draft=quote.content, how="e-mail", email=quote.contact_email or "house@example.com", sent_at=at,
                sent_by=quote.author.name, valid_until=valid_until,
                nonce="".join(self.random.choice(list("abcdefghjkmnpqrstuvwxyz23456789"), 32)),
                first_seen_at=min(at + timedelta(hours=5), self.now - timedelta(minutes=4)) if opened else None,
                seen_count=int(self.random.integers(1, 6)) if opened else 0,
            )
        )  # fmt: skip
        quote.sent_at, quote.valid_until = at, valid_until
        if quote.state in ("approved", "refused"):
            self._answer(quote, min(self.now, at + timedelta(days=int(self.random.integers(1, 9)), hours=3)))
        elif quote.state == "expired":
            quote.closed_at, quote.why, quote.chance = at + timedelta(days=31), "expired", 0
        elif quote.state == "withdrawn":
            quote.closed_at, quote.why, quote.chance = at + timedelta(days=6), "no answer", 0

    def _answer(self, quote: Quote, at: datetime) -> None:
        approved = quote.state == "approved"
        quote.closed_at, quote.chance = at, 100 if approved else 0
        quote.why = "" if approved else str(self.random.choice(_WHY))
        signed = {"option": quote.content["options"][0]["key"], "ticked": [], "gross": quote.gross,
                  "name": quote.contact_name, "at": int(at.timestamp())} if approved else {}  # fmt: skip
        self.answers.append(
            Answer(
                version=self.versions[-1],
                approved=approved,
                at=at,
                name=quote.contact_name,
                address="203.0.113.8",
                why=quote.why,
                signed=signed,
                digest=digest(signed) if approved else "",
            )
        )

    def save(self) -> None:
        self.quotes.sort(key=lambda one: one.made_at)
        numbers = take_numbers("quote", len(self.quotes), now=self.now)
        for quote, number in zip(self.quotes, numbers, strict=True):
            quote.number = number
        Quote.objects.bulk_create(self.quotes)
        for version in self.versions:
            version.content["number"] = version.quote.number
            version.digest = digest(version.content)
        QuoteVersion.objects.bulk_create(self.versions)
        Answer.objects.bulk_create(self.answers)


def _person(customer: Customer) -> str:
    contact = customer.contacts.order_by("pk").first()
    return contact.name if contact else customer.name


def _orders_like() -> Iterator[WorkOrder]:
    """Done work at sites of customers who pay what everybody does, each order once, the newest first."""
    rows = WorkOrder.objects.select_related("customer", "site", "asset").filter(
        state="reviewed", customer__merged_into=None, asset__isnull=False
    )  # fmt: skip
    found = list(rows.order_by("-made_at")[:900])
    special = with_own_prices({row.customer_id for row in found})
    return iter([row for row in found if row.customer_id not in special and not row.customer.payer_id])


def make_quotes(random: np.random.Generator, jobs: dict[str, JobType], now: int) -> None:
    """Recent quotes of every state, and those of the year before; what some of them wait for."""
    maker = _Maker(random, now, jobs)
    orders = _orders_like()
    recent = []
    for number, (state, back) in enumerate(RECENT):
        off = (0, 0, 5, 0, 25)[number % 5] if state == "draft" else (0, 5, 0)[number % 3]
        idea = IDEAS[number % len(IDEAS)]
        recent.append(maker.quote(idea, next(orders), state, maker.at(back, 9 + number % 8), off=off))
    for number in range(PAST):
        order = next(orders)
        state = "approved" if random.random() < WON else str(random.choice(["refused", "refused", "expired"]))
        back = 50 + int(random.integers(0, 310))
        found = maker.quote(IDEAS[number % len(IDEAS)], order, state, maker.at(back, 8 + number % 9))
        found.order = order if state == "approved" else None
    for quote, order in zip((one for one in recent if one.state == "approved"), orders, strict=False):
        quote.order = order
    maker.save()
    _waiting(recent, maker.now)


def _waiting(recent: Sequence[Quote], now: datetime) -> None:
    """A survey to come, a question, and what their authors are to think of."""
    drafts = [quote for quote in recent if quote.state == "draft"]
    surveys = Visit.objects.filter(order__job_type__code="survey", state__in=["open", "placed", "sent"]).order_by("pk")
    for quote, visit in zip(drafts[3:6], surveys[:3], strict=False):
        Survey.objects.create(quote=quote, visit=visit)
    sent = [quote for quote in recent if quote.state == "sent"]
    version = sent[2].versions.get()
    Question.objects.create(
        version=version,
        at=now - timedelta(hours=2),
        name=sent[2].contact_name,
        text="Can the work be done on a Sunday, when the house is closed?",
    )
    Reminder.objects.bulk_create(
        Reminder(
            person=quote.author, at=now.replace(hour=9, minute=0) + timedelta(days=later), about="quote",
            about_id=quote.pk, text=f"{words} {quote.contact_name} about {quote.number} “{quote.title}”"[:200],
            made_by="the calendar",
        )
        for quote, later, words in (
            (sent[2], 0, "Answer"), (sent[5], -1, "Ask"), (sent[7], 0, "Ask"), (sent[9], 2, "Call"),
        )
    )  # fmt: skip

"""Company settings: typed values with their explanation, checked on construction.

A setting is one field of `Settings`. Its group, name, explanation and bounds stand with it, so the settings page,
the API and the check all follow from this one place.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field, fields
from datetime import time
from typing import Any, Literal

from core.basics import is_phone_country
from core.calendars import Style
from core.company.templates import TEMPLATES, unknown_words

Kind = Literal["number", "yes_no", "text", "long_text", "list", "windows", "week", "choices", "choice"]
GROUPS = ("Numbering", "Days and times", "Working week", "Offering a time", "Orders", "Quotes", "Stock",
          "Messages", "Signing in")  # fmt: skip
CLOCKS = ("14:05", "2:05 pm")
DATE_ORDERS = ("Mon 23 Nov", "Mon Nov 23")
WEEK_BEGINS = ("Monday", "Sunday", "Saturday")
# Facts an order may be required to have before it is made.
REQUIRABLE = ("asset", "contact", "phone", "source", "job type")


@dataclass(frozen=True, kw_only=True)
class Explained:
    """How a setting is shown: in which group, under which name, what it does, within which bounds."""

    group: str
    name: str
    explanation: str
    kind: Kind
    unit: str = ""
    least: float | None = None
    most: float | None = None
    choices: tuple[str, ...] = ()


def _setting(default: Any, group: str, name: str, kind: Kind, explanation: str, **more: Any) -> Any:
    metadata = {"explained": Explained(group=group, name=name, kind=kind, explanation=explanation, **more)}
    return field(default=default, metadata=metadata)


def _weight(default: int, name: str, explanation: str) -> Any:
    return _setting(default, "Offering a time", name, "number", explanation, least=0, most=100)


def _discount(default: int, whose: str) -> Any:
    explanation = (
        f"The highest discount that {whose} give by themselves. For more somebody who may give it has to agree before "
        "the quote is shown to the customer. Administrators have no limit."
    )
    name = f"Discounts by {whose}"
    return _setting(default, "Quotes", name, "number", explanation, unit="%", least=0, most=100)


class BadSetting(ValueError):
    """A setting that cannot be: its name, and a sentence that begins with what people call it."""

    def __init__(self, sentence: str, *, setting: str) -> None:
        super().__init__(sentence)
        self.setting = setting


@dataclass(frozen=True, kw_only=True)
class Settings:
    """All of a company's settings.

    Raises
    ------
    BadSetting
        When a value cannot be.
    """

    # fmt: off
    order_number: str = _setting("W-{number}", "Numbering", "Work order numbers", "text",
        "How the number of a new work order is written. {number} counts up, {year} is the year it is made in. "
        "Orders that exist keep their number.")
    order_number_next: int = _setting(1001, "Numbering", "First work order number", "number",
        "Counting begins here; a number that is taken is never given twice.", least=1, most=10**9)
    request_number: str = _setting("R-{number}", "Numbering", "Request numbers", "text",
        "How the number of a request is written.")
    quote_number: str = _setting("Q-{number}", "Numbering", "Quote numbers", "text",
        "How the number of a quote is written.")

    part_number: str = _setting("P-{number}", "Numbering", "Part numbers", "text",
        "How the number of a new part is written, where it is not given by hand.")
    purchase_number: str = _setting("B-{number}", "Numbering", "Purchase order numbers", "text",
        "How the number of an order to a supplier is written.")

    phone_country: str = _setting("PT", "Numbering", "Country of phone numbers", "text",
        "Two letters. A number written without a country code is taken to be from there, so that a caller is found "
        "however the number is written.")

    clock: str = _setting(CLOCKS[0], "Days and times", "Clock", "choice",
        "How times of day are shown, to you and to customers. Both are understood where one is typed.", choices=CLOCKS)
    date_order: str = _setting(DATE_ORDERS[0], "Days and times", "Days", "choice",
        "How days are shown. A day typed in numbers is read in the same order.", choices=DATE_ORDERS)
    week_begins: str = _setting(WEEK_BEGINS[0], "Days and times", "Weeks begin on", "choice",
        "Where weeks are divided in views of several weeks. Weeks of shifts in turn change on Monday.",
        choices=WEEK_BEGINS)

    week: tuple[str, ...] = _setting(
        ("08:00-17:00", "08:00-17:00", "08:00-17:00", "08:00-17:00", "08:00-17:00", "", ""),
        "Working week", "Office week", "week",
        "On which days, from when to when, windows are offered to customers. Empty means closed. Technicians have "
        "shifts of their own.")
    grain_minutes: int = _setting(5, "Working week", "Starts every", "number",
        "The planner starts visits on multiples of so many minutes.", unit="min", least=1, most=60)
    default_minutes: int = _setting(0, "Working week", "Usual length of a visit", "number",
        "Written into new work when neither the caller nor the job type says how long it takes; 0 leaves it open, "
        "and the backlog shows it as work without a duration.", unit="min", least=0, most=1440)
    default_days: int = _setting(0, "Working week", "New work is due after", "number",
        "The deadline written into new work that has none of its own; 0 writes none.",
        unit="days", least=0, most=365)

    windows: tuple[str, ...] = _setting(
        ("08:00-10:00", "10:00-12:00", "12:00-14:00", "14:00-17:00"),
        "Offering a time", "Promise windows", "windows",
        "The arrival windows that customers are offered. A job type may have shorter or longer ones.")
    offers_on: bool = _setting(True, "Offering a time", "Recommend windows", "yes_no",
        "Off: every window that can be kept is listed by time, and none is called better than another.")
    offers_shown: int = _setting(4, "Offering a time", "Windows offered", "number",
        "How many are shown at first.", least=1, most=20)
    offers_days: int = _setting(10, "Offering a time", "Look ahead", "number",
        "Over how many days windows are looked for.", unit="days", least=1, most=14)
    offers_least: int = _setting(35, "Offering a time", "Recommended from", "number",
        "A window with fewer points (of 100) is still shown, and not recommended.", least=0, most=100)
    near_metres: int = _setting(2500, "Offering a time", "Near means within", "number",
        "Planned work within this distance by road counts as near, even where it has no technician yet.",
        unit="m", least=100, most=50_000)
    weight_near: int = _weight(30, "Weight of near work",
        "How much it counts that other work is planned near by that day.")
    weight_driving: int = _weight(30, "Weight of driving", "How much it counts that little driving is added.")
    weight_soon: int = _weight(20, "Weight of soonness", "How much it counts that the customer is served soon.")
    weight_rare: int = _weight(10, "Weight of rare skills",
        "How much it counts that nobody with a rare skill is used up for work that does not need it.")
    weight_load: int = _weight(10, "Weight of load", "How much it counts that the day is not full yet.")

    required: tuple[str, ...] = _setting((), "Orders", "Needed to make an order", "choices",
        "An order cannot be made before these are known.", choices=REQUIRABLE)
    sources: tuple[str, ...] = _setting(
        ("phone", "web", "e-mail", "alarm", "walk-in", "contract", "recommended", "advertisement"),
        "Orders", "Sources", "list", "How customers come to you. Reports compare them.")

    quote_days: int = _setting(30, "Quotes", "Valid for", "number",
        "A quote can be approved for so many days after it was sent; then it expires by itself.",
        unit="days", least=1, most=365)
    quote_follow_up_days: int = _setting(5, "Quotes", "Ask again after", "number",
        "So many days after sending a quote its author is reminded to ask the customer; 0: never.",
        unit="days", least=0, most=90)
    quote_introduction: str = _setting(
        "Thank you for asking us. This is what we propose, and what it costs.",
        "Quotes", "Introduction", "long_text", "Stands above what is offered; it may be changed in each quote.",
        most=1000)
    quote_closing: str = _setting(
        "We look forward to hearing from you. Call us with any question.",
        "Quotes", "Closing words", "long_text", "Stands below the price; it may be changed in each quote.", most=1000)
    quote_terms: str = _setting(
        "Prices hold for what is described here. What turns out to be needed besides is agreed with you first. "
        "Payment is due 14 days after the invoice.",
        "Quotes", "Terms", "long_text",
        "What the customer accepts by signing. A job type may have terms of its own.", most=6000)
    quote_deposit: int = _setting(0, "Quotes", "Deposit", "number",
        "Written into new quotes: so many percent of the total with tax are asked for before work begins.",
        unit="%", least=0, most=100)
    survey_minutes: int = _setting(60, "Quotes", "Length of a survey", "number",
        "Written into a visit that looks at the place before a quote.", unit="min", least=5, most=1440)
    wanted_per_hour: int = _setting(0, "Quotes", "Wanted for a labour-hour", "number",
        "What an hour of one person is to bring, without tax, in whole units of your currency; the price helper says "
        "what would reach it. A job type may want something else. 0: nothing is compared.", least=0, most=100_000)
    discount_intake: int = _discount(0, "intake agents")
    discount_dispatcher: int = _discount(10, "dispatchers")
    discount_reviewer: int = _discount(0, "reviewers")
    discount_technician: int = _discount(5, "technicians")
    discount_manager: int = _discount(100, "managers")
    discount_own: int = _discount(0, "roles of your own")

    stock_below_zero: bool = _setting(False, "Stock", "Levels may go below zero", "yes_no",
        "On: more may be taken than the books say is there, and the level that goes below zero is shown as something "
        "to look at. Off: it is refused.")
    stock_second_person: int = _setting(50, "Stock", "Second person for count differences", "number",
        "Differences of a count that are worth more than this, in whole units of your currency, are booked only when "
        "somebody else than who counted says yes.", least=0, most=1_000_000)
    stock_order_by_itself: bool = _setting(False, "Stock", "Propose orders every night", "yes_no",
        "On: what has fallen below its least level is put on a proposal to its supplier every night. A proposal is "
        "sent only by hand.")
    stock_unused_weeks: int = _setting(12, "Stock", "Not used for", "number",
        "A part that a van has not used for so many weeks is proposed to be left at the depot.",
        unit="weeks", least=1, most=104)
    stock_fetch_minutes: int = _setting(10, "Stock", "Time to fetch a part", "number",
        "How long a stop to fetch parts at a depot or from a colleague takes.", unit="min", least=1, most=120)

    own_addresses: tuple[str, ...] = _setting((), "Messages", "Our own e-mail addresses", "list",
        "E-mail from these makes a request, and is not answered by itself: two machines would go on for ever.")
    message_received: str = _setting(
        "{company}: we have your request {request} and will call you back.",
        "Messages", "Request received", "long_text", "Sent to who wrote to us from the web page or by e-mail.")
    message_promised: str = _setting(
        "{company}: we will be at {site} {window} ({order}).",
        "Messages", "Time promised", "long_text", "Sent when a window has been taken.")
    message_standby: str = _setting(
        "{company}: you are on our standby list for {order}. We call you if we can come before {window}.",
        "Messages", "On standby", "long_text", "Sent to a customer who would come forward.")
    message_sent: str = _setting(
        "{company}: {technician} will be with you {window} ({order}).",
        "Messages", "Visit sent", "long_text", "Sent when a technician has been told to go.")
    message_on_the_way: str = _setting(
        "{technician} from {company} is on the way to you.",
        "Messages", "On the way", "long_text", "Sent when the technician leaves for the customer.")
    message_cancelled: str = _setting(
        "{company}: our visit to {site} ({order}) is cancelled. Call us if you have questions.",
        "Messages", "Visit cancelled", "long_text",
        "Offered when a visit is cancelled, and read before it goes. The reason that is noted for us is never sent.")
    message_wait_seconds: int = _setting(20, "Messages", "Wait before a message goes", "number",
        "A message that says that a visit is moved or off, or that offers an earlier time, waits so long: undoing what "
        "led to it calls it back.", unit="s", least=0, most=300)

    idle_minutes: int = _setting(0, "Signing in", "Sign out when nobody is there", "number",
        "After so many minutes in which nobody touched key or mouse the office is signed out; 0: never. What is typed "
        "at intake is kept. Phones of technicians stay signed in.", unit="min", least=0, most=720)
    # fmt: on

    def __post_init__(self) -> None:
        for name, shown in explained().items():
            value = getattr(self, name)
            problem = _CHECKS[shown.kind](value, shown) or _check_words(name, value)
            if problem:
                raise BadSetting(f"{shown.name}: {problem}", setting=name)
        for wrong in ("order_number", "request_number", "quote_number", "part_number", "purchase_number"):
            if "{number}" not in getattr(self, wrong):
                raise BadSetting("Numbering: a number's pattern needs {number} in it", setting=wrong)
        if not is_phone_country(self.phone_country):
            said = f"Country of phone numbers: “{self.phone_country}” is no country's two letters"
            raise BadSetting(said, setting="phone_country")
        if not any((self.weight_near, self.weight_driving, self.weight_soon, self.weight_rare, self.weight_load)):
            raise BadSetting("Offering a time: at least one weight must be more than nothing", setting="weight_near")

    @property
    def style(self) -> Style:
        """How days and times are said."""
        return Style(twelve_hours=self.clock == CLOCKS[1], month_first=self.date_order == DATE_ORDERS[1])

    def hours_on(self, weekday: int) -> tuple[time, time] | None:
        """Office hours on a weekday (Monday is 0); None when closed."""
        return parse_span(self.week[weekday]) if self.week[weekday] else None

    def window_times(self) -> list[tuple[time, time]]:
        return [parse_span(text) for text in self.windows]


def explained() -> dict[str, Explained]:
    """Every setting's explanation, by the setting's name."""
    return {row.name: row.metadata["explained"] for row in fields(Settings)}


def settings_from(stored: Mapping[str, Any]) -> Settings:
    """Settings from what is stored; what is not named has its default, what is no longer known is left out."""
    known = {row.name for row in fields(Settings)}
    values: dict[str, Any] = {
        name: tuple(v) if isinstance(v, list) else v for name, v in stored.items() if name in known
    }
    return Settings(**values)


def parse_span(text: str) -> tuple[time, time]:
    """ "08:00-10:00" as two clock times.

    Raises
    ------
    ValueError
        When it is no span, or ends before it begins.
    """
    try:
        start, end = (time.fromisoformat(part.strip()) for part in text.split("-"))
    except ValueError as error:
        raise ValueError(f"“{text}” is not a span like 08:00-10:00") from error
    if end <= start:
        raise ValueError(f"“{text}” ends before it begins")
    return start, end


def _check_words(name: str, value: Any) -> str | None:
    if name not in TEMPLATES:
        return None
    unknown = unknown_words(value, TEMPLATES[name])
    words = ", ".join(f"{{{word}}}" for word in TEMPLATES[name])
    wrong = ", ".join(word if word.startswith("{") else f"{{{word}}}" for word in unknown)
    return f"{wrong} is not known; there are {words}" if unknown else None


def _number(value: Any, shown: Explained) -> str | None:
    if not isinstance(value, int) or isinstance(value, bool):
        return "this is a whole number"
    if shown.least is not None and value < shown.least:
        return f"at least {shown.least}"
    return f"at most {shown.most}" if shown.most is not None and value > shown.most else None


def _text(value: Any, shown: Explained) -> str | None:
    if not isinstance(value, str) or not value.strip():
        return "write something"
    most = int(shown.most or 300) if shown.kind == "long_text" else 40
    return f"at most {most} characters" if len(value) > most else None


def _list(value: Any, shown: Explained) -> str | None:
    if not isinstance(value, tuple) or not all(isinstance(item, str) and 0 < len(item.strip()) <= 40 for item in value):
        return "each is a word or a few, at most 40 characters"
    if len(set(value)) < len(value):
        return "one is there twice"
    if shown.choices and (unknown := set(value) - set(shown.choices)):
        return f"{', '.join(sorted(unknown))} cannot be chosen"
    return None


def _spans(value: Any, shown: Explained) -> str | None:
    problem = _list(value, shown)
    try:
        spans = sorted(parse_span(text) for text in value) if not problem else []
    except ValueError as error:
        return str(error)
    return problem or (None if spans else "name at least one")


def _week(value: Any, _shown: Explained) -> str | None:
    if not isinstance(value, tuple) or len(value) != 7 or not all(isinstance(text, str) for text in value):
        return "a week has seven days"
    try:
        for text in filter(None, value):
            parse_span(text)
    except ValueError as error:
        return str(error)
    return None if any(value) else "at least one day is open"


_CHECKS = {
    "number": _number,
    "yes_no": lambda value, _shown: None if isinstance(value, bool) else "yes or no",
    "text": _text,
    "long_text": _text,
    "list": _list,
    "choices": _list,
    "choice": lambda value, shown: None if value in shown.choices else f"one of {', '.join(shown.choices)}",
    "windows": _spans,
    "week": _week,
}

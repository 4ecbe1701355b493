"""What happens to quotes, for those who listen."""

from dataclasses import dataclass
from datetime import datetime

from apps.quotes.models import Answer, Question, QuoteVersion


@dataclass(frozen=True, kw_only=True)
class QuoteSent:
    """A version goes to the customer by e-mail; `origin` is where the application is, like https://relay.example."""

    version: QuoteVersion
    origin: str
    at: datetime


@dataclass(frozen=True, kw_only=True)
class QuoteAnswered:
    """The customer approved or refused."""

    answer: Answer
    at: datetime


@dataclass(frozen=True, kw_only=True)
class QuoteAsked:
    """The customer has a question, or somebody has answered one."""

    question: Question
    at: datetime

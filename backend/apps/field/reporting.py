"""Deeds that go into a visit's report: the shape of each, and the command that takes it."""

from collections.abc import Mapping
from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field

from apps.field.bodies import Body, Kind, Shapeless, doing_of
from apps.field.inputs import SentDeed
from apps.reports import commands as reports
from apps.reports.inputs import AcceptanceFields, AnswerFields, PictureFields
from core.reports import Acceptance, Ended
from foundation.actors import Actor
from foundation.schemas import Text


class _Nothing(Body):
    pass


class _Task(Body):
    words: Text = Field(min_length=1, max_length=500)
    done: bool


class _Answer(Body):
    key: Text = Field(min_length=1, max_length=40)
    value: Annotated[str, Field(max_length=2000)] | float | bool | None
    sure: bool = False


class _Note(Body):
    reader: Literal["self", "office", "customer"]
    text: Text = Field(max_length=10_000)


class _Picture(Body):
    id: UUID
    kind: Literal["photo", "signature"] = "photo"
    size: int = Field(ge=1, le=2**31 - 1)
    media_type: Text = Field(max_length=40)
    caption: Text = Field("", max_length=300)
    pair: Literal["", "before", "after"] = ""
    question: Text = Field("", max_length=40)
    original: UUID | None = None


class _Without(Body):
    id: UUID


class _Acceptance(Body):
    ended: Ended
    name: Text = Field("", max_length=120)
    rating: int | None = None
    words: Text = Field("", max_length=1000)
    signature: UUID | None = None
    shown: list[Annotated[Text, Field(max_length=300)]] = Field(default_factory=list, max_length=200)


class _Send(Body):
    addresses: list[Annotated[Text, Field(max_length=254)]] = Field(min_length=1, max_length=10)


def _look(actor: Actor, now: datetime, sent: SentDeed, _body: _Nothing) -> str:
    reports.look(actor=actor, doing=doing_of(actor, now, sent))
    return ""


def _task(actor: Actor, now: datetime, sent: SentDeed, body: _Task) -> str:
    reports.set_task(actor=actor, now=now, doing=doing_of(actor, now, sent), words=body.words, done=body.done)
    return ""


def _answer(actor: Actor, now: datetime, sent: SentDeed, body: _Answer) -> str:
    fields = AnswerFields(key=body.key, value=body.value, sure=body.sure)
    reports.answer(actor=actor, now=now, doing=doing_of(actor, now, sent), fields=fields)
    return ""


def _note(actor: Actor, now: datetime, sent: SentDeed, body: _Note) -> str:
    reports.write_note(actor=actor, now=now, doing=doing_of(actor, now, sent), reader=body.reader, text=body.text)
    return ""


def _picture(actor: Actor, now: datetime, sent: SentDeed, body: _Picture) -> str:
    reports.tell_of_picture(
        actor=actor, now=now, doing=doing_of(actor, now, sent), fields=PictureFields(**body.model_dump())
    )
    return ""


def _without(actor: Actor, now: datetime, sent: SentDeed, body: _Without) -> str:
    reports.remove_picture(actor=actor, now=now, doing=doing_of(actor, now, sent), picture_id=body.id)
    return ""


def _acceptance(actor: Actor, now: datetime, sent: SentDeed, body: _Acceptance) -> str:
    try:
        said = Acceptance(ended=body.ended, name=body.name, rating=body.rating, words=body.words)
    except ValueError as error:
        raise Shapeless(str(error)) from error
    fields = AcceptanceFields(acceptance=said, signature=body.signature, shown=body.shown)
    reports.accept_work(actor=actor, now=now, doing=doing_of(actor, now, sent), fields=fields)
    return ""


def _send(actor: Actor, now: datetime, sent: SentDeed, body: _Send) -> str:
    reports.send_from_field(actor=actor, now=now, doing=doing_of(actor, now, sent), addresses=body.addresses)
    return ""


REPORT_KINDS: Mapping[str, Kind] = {
    "look": (_Nothing, _look),
    "task": (_Task, _task),
    "answer": (_Answer, _answer),
    "note": (_Note, _note),
    "picture": (_Picture, _picture),
    "picture out": (_Without, _without),
    "acceptance": (_Acceptance, _acceptance),
    "send report": (_Send, _send),
}

"""Requests by e-mail."""

import hashlib
import re
from datetime import datetime
from email import message_from_bytes, policy
from email.message import EmailMessage
from email.utils import parseaddr
from html.parser import HTMLParser

from django.db import transaction

from apps.intake.commands.requests import Sender, note_from_outside
from apps.intake.commands.web import known_sender
from apps.intake.mailbox import Mailbox
from apps.intake.models import MailSeen, Request
from foundation import audit, files, live
from foundation.errors import Rejected
from foundation.outside import Outside

MOST_ATTACHMENTS = 20


def read_mailbox(*, now: datetime, mailbox: Mailbox) -> list[Request]:
    """Make a request of each unread e-mail, or add it to the request it answers; attachments are kept.

    Each message in a transaction of its own: one that cannot be read keeps no other from being read.
    """
    made = []
    for key, content in mailbox.unread():
        with transaction.atomic():
            request = _take(now, content)
        mailbox.mark_read(key)
        if request is not None:
            made.append(request)
    return made


def _take(now: datetime, content: bytes) -> Request | None:
    message = message_from_bytes(content, policy=policy.default)
    assert isinstance(message, EmailMessage)
    digest = hashlib.sha256(content).hexdigest()
    seen, new = MailSeen.objects.get_or_create(
        message_id=str(message.get("Message-ID") or digest)[:250], defaults={"at": now}
    )
    if not new:
        return None
    name, address = parseaddr(str(message.get("From") or ""))
    subject, text = str(message.get("Subject") or "").strip(), _text(message).strip()
    actor = Outside(name=name or address or "E-mail")
    request = _answered(subject)
    if request is not None:
        audit.note(actor=actor, now=now, entity="request", entity_id=request.pk, text=f"{subject}\n\n{text}")
        live.announce("request", ids=[request.pk])
    else:
        customer = known_sender(address)
        sites = list(customer.sites.all()[:2]) if customer else []
        request = note_from_outside(
            actor=actor, now=now, text="\n\n".join(filter(None, [subject, text])) or "(an e-mail without text)",
            sender=Sender(channel="e-mail", name=name or address, email=address), customer=customer,
            site=sites[0] if len(sites) == 1 else None,
        )  # fmt: skip
    _keep_attachments(actor, now, request, message)
    seen.request = request
    seen.save(update_fields=["request"])
    return request


def _answered(subject: str) -> Request | None:
    """The request whose number stands in the subject."""
    words = re.findall(r"[\w-]+", subject)
    return Request.objects.filter(number__in=words).exclude(state="closed").order_by("-id").first() if words else None


def _text(message: EmailMessage) -> str:
    body = message.get_body(preferencelist=("plain", "html"))
    if body is None:
        return ""
    try:
        content = str(body.get_content())
    except (LookupError, UnicodeError):
        payload = body.get_payload(decode=True)
        content = payload.decode("latin-1") if isinstance(payload, bytes) else ""
    return _plain(content) if body.get_content_subtype() == "html" else content.replace("\x00", "")


class _Words(HTMLParser):
    def __init__(self) -> None:
        super().__init__()
        self.words: list[str] = []
        self.hidden = 0

    def handle_starttag(self, tag: str, attrs: object) -> None:  # noqa: ARG002 - the parser's interface
        self.hidden += tag in ("style", "script", "head")
        if tag in ("p", "br", "div", "tr", "li"):
            self.words.append("\n")

    def handle_endtag(self, tag: str) -> None:
        self.hidden -= tag in ("style", "script", "head")

    def handle_data(self, data: str) -> None:
        if self.hidden <= 0:
            self.words.append(data)


def _plain(html: str) -> str:
    parser = _Words()
    parser.feed(html)
    lines = (" ".join(line.split()) for line in "".join(parser.words).splitlines())
    return "\n".join(line for line in lines if line)


def _keep_attachments(actor: Outside, now: datetime, request: Request, message: EmailMessage) -> None:
    for part in list(message.iter_attachments())[:MOST_ATTACHMENTS]:
        content = part.get_payload(decode=True)
        name = part.get_filename() or f"attachment.{part.get_content_subtype()}"
        try:
            files.keep(
                actor=actor, now=now, record="request", record_id=request.pk, name=name,
                content=content if isinstance(content, bytes) else b"", media_type=part.get_content_type(),
            )  # fmt: skip
        except Rejected as error:
            audit.note(actor=actor, now=now, entity="request", entity_id=request.pk, text=error.sentence)

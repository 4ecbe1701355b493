"""Requests by e-mail. Each message stands for itself: one that cannot be read keeps no other from being read."""

import hashlib
import logging
import re
from datetime import datetime

from django.db import transaction

from apps.company.queries import settings
from apps.customers.models import Contact
from apps.intake.commands.requests import Sender, note_from_outside
from apps.intake.commands.web import known_sender
from apps.intake.letters import Letter, Unreadable, clean, read_letter
from apps.intake.mailbox import Mailbox
from apps.intake.models import MailSeen, MailUnread, Request
from core.roles import Action
from foundation import audit, files, live
from foundation.actors import Actor, require
from foundation.errors import NotFound, Rejected
from foundation.outside import Outside

log = logging.getLogger(__name__)
# Larger ones are set aside: reading them would take the worker's memory.
LARGEST = 64 * 1024 * 1024


def read_mailbox(*, now: datetime, mailbox: Mailbox) -> list[Request]:
    """Make a request of each unread e-mail, or add it to the request it answers; attachments are kept.

    What cannot be read is set aside in the mailbox and listed, with why.
    """
    made = []
    for key, size in mailbox.unread():
        request = read_one(now=now, mailbox=mailbox, key=key, size=size)
        if request is not None:
            made.append(request)
    return made


def read_one(*, now: datetime, mailbox: Mailbox, key: str, size: int) -> Request | None:
    """Read one e-mail; None for what was seen before, belongs to nobody, or is set aside."""
    content = b""
    try:
        if size > LARGEST:
            raise Unreadable(f"It is larger than {LARGEST // 2**20} MB.")
        content = mailbox.read(key)
        with transaction.atomic():
            request = _take(now, read_letter(content), content)
    except Unreadable as why:
        _set_aside(now, mailbox, key, size, content, str(why))
        return None
    except Exception as error:
        # Whatever it is, it is about this message alone: the next one may be a cry for help.
        log.exception("e-mail %s could not be read", key)
        _set_aside(now, mailbox, key, size, content, f"Reading it failed ({type(error).__name__}).")
        return None
    mailbox.mark_read(key)
    return request


def _set_aside(now: datetime, mailbox: Mailbox, key: str, size: int, content: bytes, why: str) -> None:
    sender, subject = _glance(content)
    with transaction.atomic():
        # Once, also for who died before the message was out of the way.
        MailUnread.objects.update_or_create(
            key=key[:250], settled_at=None,
            defaults={"sender": sender, "subject": subject, "size": size, "why": why[:300], "at": now},
        )  # fmt: skip
        live.announce("request")
    mailbox.set_aside(key)


def _glance(content: bytes) -> tuple[str, str]:
    """Sender and subject, as far as they can be told."""
    try:
        letter = read_letter(content)
    except Exception:
        return "", clean(content[:80].decode("latin-1"))
    return clean(f"{letter.name} {letter.address}")[:200], letter.subject[:200]


def _take(now: datetime, letter: Letter, content: bytes) -> Request | None:
    key = letter.message_id or hashlib.sha256(content).hexdigest()
    seen, new = MailSeen.objects.get_or_create(message_id=key, defaults={"at": now})
    if not new:
        return None
    request = _answered(letter)
    if request is None and (letter.bounce or (letter.automatic and letter.answers)):
        raise Unreadable("Nobody wrote it: an automatic answer, or word that a message did not arrive.")
    actor = Outside(name=letter.name or letter.address or "E-mail")
    if request is not None:
        words = "\n\n".join(filter(None, [letter.subject, letter.text])) or "(an e-mail without text)"
        audit.note(actor=actor, now=now, entity="request", entity_id=request.pk, text=words)
        live.announce("request", ids=[request.pk])
    else:
        request = _new(now, letter, actor)
    _keep_attachments(actor, now, request, letter)
    seen.request = request
    seen.save(update_fields=["request"])
    return request


def _new(now: datetime, letter: Letter, actor: Outside) -> Request:
    customer = known_sender(letter.address)
    sites = list(customer.sites.all()[:2]) if customer else []
    return note_from_outside(
        actor=actor, now=now,
        text="\n\n".join(filter(None, [letter.subject, letter.text])) or "(an e-mail without text)",
        sender=Sender(channel="e-mail", name=letter.name or letter.address, email=letter.address), customer=customer,
        site=sites[0] if len(sites) == 1 else None, silent=letter.automatic or _is_own(letter.address),
    )  # fmt: skip


def _is_own(address: str) -> bool:
    return address.casefold() in {own.casefold() for own in settings().own_addresses}


def _answered(letter: Letter) -> Request | None:
    """The request it answers: by what it says it answers, else by a number in its subject - which anybody can write,
    so that one counts only from somebody that request knows."""
    if letter.answers:
        known = MailSeen.objects.select_related("request__joined_into").filter(
            message_id__in=letter.answers, request__isnull=False
        )
        by_id = {row.message_id: row.request for row in known}
        found = next((by_id[key] for key in letter.answers if key in by_id), None)
        if found is not None and (open_ := _open(found)) is not None:
            return open_
    words = re.findall(r"[\w-]+", letter.subject)
    named = Request.objects.select_related("joined_into").filter(number__in=words).order_by("-id").first()
    return _open(named) if named is not None and _knows(named, letter.address) else None


def _open(request: Request) -> Request | None:
    """Itself, or the one it was joined into; None when it was closed."""
    at = request.joined_into or request
    return at if at.state != "closed" else None


def _knows(request: Request, address: str) -> bool:
    if not address:
        return False
    if request.from_email.casefold() == address.casefold():
        return True
    customer = request.customer
    if customer is None:
        return False
    people = Contact.objects.filter(customer=customer, email__iexact=address)
    return customer.email.casefold() == address.casefold() or people.exists()


def remember_sent(*, now: datetime, message_id: str, request: Request) -> None:
    """An e-mail of ours about a request: what answers it belongs there. Coming back to us, it is no new one."""
    MailSeen.objects.get_or_create(message_id=message_id[:250], defaults={"at": now, "request": request})


def _keep_attachments(actor: Outside, now: datetime, request: Request, letter: Letter) -> None:
    """With the request, and with the order it has become."""
    records = [("request", request.pk)]
    if (order := getattr(request, "order", None)) is not None:
        records.append(("order", order.pk))
    for part in letter.attachments:
        for record, key in records:
            try:
                files.keep(
                    actor=actor, now=now, record=record, record_id=key, name=part.name, content=part.content,
                    media_type=part.media_type,
                )  # fmt: skip
            except Rejected as error:
                said = f"{error.sentence} It is still in the mailbox."
                audit.note(actor=actor, now=now, entity=record, entity_id=key, text=said)


def read_again(*, actor: Actor, now: datetime, mailbox: Mailbox, unread_id: int) -> Request | None:
    """Try once more what could not be read.

    Raises
    ------
    NotFound
        When it is settled, or not in the mailbox any more.
    """
    require(actor, Action.TAKE_REQUESTS)
    row = _unsettled(unread_id)
    if not mailbox.put_back(row.key):
        raise NotFound("This e-mail is not in the mailbox any more.", code="no_mail")
    settle(actor=actor, now=now, unread_id=unread_id)
    return read_one(now=now, mailbox=mailbox, key=row.key, size=row.size)


@transaction.atomic
def settle(*, actor: Actor, now: datetime, unread_id: int) -> MailUnread:
    """Note that somebody has looked at an e-mail that could not be read."""
    require(actor, Action.TAKE_REQUESTS)
    row = _unsettled(unread_id)
    row.settled_at, row.settled_by = now, actor.name[:120]
    row.save(update_fields=["settled_at", "settled_by"])
    audit.record(
        actor=actor, now=now, action="settle", entity="mail", entity_id=row.pk, sentence="dealt with an unread e-mail"
    )
    live.announce("request")
    return row


def _unsettled(unread_id: int) -> MailUnread:
    row = MailUnread.objects.filter(pk=unread_id, settled_at__isnull=True).first()
    if row is None:
        raise NotFound("This e-mail was dealt with already.", code="no_mail")
    return row

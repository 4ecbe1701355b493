"""Reading an e-mail as it really comes: raw bytes in headers, wrong character sets, junk, automatic answers.

Raw messages after RFC 5322, MIME after RFC 2045-2047, automatic ones after RFC 3834, bounces after RFC 3464.
"""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from email import message_from_bytes, policy
from email.errors import HeaderParseError
from email.header import decode_header
from email.message import Message
from email.utils import parseaddr
from html.parser import HTMLParser

# Whatever is longer is no name and no subject; the tables hold less still.
LONGEST_HEADER = 2000
MOST_ATTACHMENTS = 20
_HEADERS_OF_MAIL = ("from", "subject", "date", "to", "message-id", "received")


class Unreadable(Exception):
    """It is no e-mail at all; the text says why."""


@dataclass(frozen=True, kw_only=True)
class Attachment:
    name: str
    media_type: str
    content: bytes


@dataclass(frozen=True, kw_only=True)
class Letter:
    """What an e-mail says. `answers` are the ids of the messages it answers, nearest first.

    `automatic`: nobody wrote it, so nobody is answered. `bounce`: it says that another message did not arrive.
    """

    message_id: str
    name: str
    address: str
    subject: str
    text: str
    answers: tuple[str, ...]
    automatic: bool
    bounce: bool
    attachments: tuple[Attachment, ...]


def read_letter(content: bytes) -> Letter:
    """What a raw message says.

    Raises
    ------
    Unreadable
        When it is no e-mail.
    """
    # The old policy: it keeps headers as they came, where the new one fails on some that are broken.
    message = message_from_bytes(content, policy=policy.compat32)
    if not any(name in message for name in _HEADERS_OF_MAIL):
        raise Unreadable("It is no e-mail: it has neither a sender nor a subject nor a date.")
    name, address = parseaddr(_raw(message, "from"))
    kind = message.get_content_type()
    return Letter(
        message_id=_raw(message, "message-id").strip()[:250],
        name=clean(_decoded(name)), address=clean(address)[:254],
        subject=clean(_decoded(_raw(message, "subject"))), text=_text(message).strip(),
        answers=tuple(_ids(_raw(message, "in-reply-to")) + _ids(_raw(message, "references"))[::-1]),
        automatic=_is_automatic(message), bounce=kind == "multipart/report" or _is_from_the_system(address),
        attachments=tuple(_attachments(message)),
    )  # fmt: skip


def clean(text: str) -> str:
    """One line without what no screen shows."""
    return " ".join("".join(letter if letter.isprintable() else " " for letter in text).split())[:LONGEST_HEADER]


def _raw(message: Message, name: str) -> str:
    """A header as text: bytes that no rule allows there are read as UTF-8, else as Latin."""
    value = next((str(value) for key, value in message.raw_items() if key.lower() == name), "")
    return _from_bytes(value.encode("ascii", "surrogateescape"), "utf-8") if not value.isascii() else value


def _decoded(header: str) -> str:
    """With its encoded words (RFC 2047) read."""
    try:
        parts = decode_header(header)
    except (HeaderParseError, ValueError):
        return header
    return "".join(part if isinstance(part, str) else _from_bytes(part, charset or "utf-8") for part, charset in parts)


def _from_bytes(content: bytes, charset: str) -> str:
    """In the character set it claims; where that cannot be, in the one it is most likely written in."""
    for name in (charset, "utf-8", "cp1252"):
        try:
            return content.decode(name)
        except (LookupError, UnicodeError):
            continue
    return content.decode("latin-1")


def _ids(header: str) -> list[str]:
    return re.findall(r"<[^<>\s]{1,248}>", header)


def _is_automatic(message: Message) -> bool:
    submitted = _raw(message, "auto-submitted").split(";")[0].strip().lower()
    if submitted not in ("", "no"):
        return True
    if _raw(message, "precedence").strip().lower() in ("bulk", "junk", "list", "auto_reply"):
        return True
    return _raw(message, "return-path").strip() == "<>" or _is_from_the_system(parseaddr(_raw(message, "from"))[1])


def _is_from_the_system(address: str) -> bool:
    return address.split("@")[0].lower() in ("mailer-daemon", "postmaster")


def _text(message: Message) -> str:
    """What was written: plain where there is a plain part, else what the page says."""
    found: dict[str, str] = {}
    for part in message.walk():
        kind = part.get_content_type()
        if kind in ("text/plain", "text/html") and kind not in found and not _is_file(part):
            found[kind] = _part_text(part)
    return found.get("text/plain") or plain(found.get("text/html", ""))


def _part_text(part: Message) -> str:
    payload = part.get_payload(decode=True)
    text = _from_bytes(payload, part.get_content_charset() or "utf-8") if isinstance(payload, bytes) else ""
    return "".join(letter for letter in text if letter.isprintable() or letter in "\n\t")


def _is_file(part: Message) -> bool:
    return part.get_content_disposition() == "attachment" or part.get_filename() is not None


def _attachments(message: Message) -> Iterator[Attachment]:
    number = 0
    for part in message.walk():
        kind = part.get_content_type()
        pictured = part.get_content_maintype() not in ("text", "multipart", "message")
        if part.is_multipart() or not (_is_file(part) or pictured):
            continue
        number += 1
        if number > MOST_ATTACHMENTS:
            return
        content = part.get_payload(decode=True)
        name = clean(_decoded(str(part.get_filename() or ""))) or f"attachment-{number}.{part.get_content_subtype()}"
        yield Attachment(name=name, media_type=kind, content=content if isinstance(content, bytes) else b"")


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


def plain(html: str) -> str:
    """What a page says, without its tags."""
    parser = _Words()
    parser.feed(html)
    lines = (" ".join(line.split()) for line in "".join(parser.words).splitlines())
    return "\n".join(line for line in lines if line)

"""What really comes by e-mail: broken, huge, automatic, forged. Nothing vanishes, nothing stops the next one."""

import re
from email.message import EmailMessage

import pytest

from apps.customers.models import Customer
from apps.intake import commands
from apps.intake.commands import mail as mail_commands
from apps.intake.mailbox import FolderMailbox
from apps.intake.models import MailUnread, Request
from apps.messages.models import Message
from apps.orders.models import WorkOrder
from foundation import files

pytestmark = pytest.mark.django_db


@pytest.fixture
def post(tmp_path, settings, now, world):
    """Put raw messages into the mailbox and read it; the requests made."""
    settings.MEDIA_ROOT = tmp_path / "media"
    settings.MAILBOX_FOLDER = tmp_path / "mail"
    settings.MAILBOX_FOLDER.mkdir()
    box = FolderMailbox(settings.MAILBOX_FOLDER)

    def deliver(*raw: bytes) -> list[Request]:
        for number, content in enumerate(raw):
            (box.folder / f"{number}.eml").write_bytes(content)
        return commands.read_mailbox(now=now, mailbox=box)

    deliver.box = box
    return deliver


def letter(subject="Door stuck", sender="Porter <porter@elsewhere.example>", text="Please come.", **headers) -> bytes:
    mail = EmailMessage()
    mail["From"], mail["To"], mail["Subject"] = sender, "service@lifts.example", subject
    for name, value in headers.items():
        mail[name.replace("_", "-")] = value
    mail.set_content(text)
    return mail.as_bytes()


GOOD = letter(subject="Trapped in lift B")


@pytest.mark.parametrize(
    "bad",
    [
        b"",
        b"\x00\xff\xfe\x80 not a mail at all",
        bytes(range(256)) * 40,
        b"From: " + b"A" * 200 + b" <long@elsewhere.example>\r\nSubject: hello\r\n\r\nhello",
        b"From: \xe9t\xe9@elsewhere.example\r\nSubject: T\xfcr klemmt\r\n\r\nT\xfcr klemmt",
        b"From: a@b.example\r\nSubject: =?no-such-charset?q?=FF?=\r\n\r\nx",
        b"From: a@b.example\r\nSubject: =?utf-8?b?////?=\r\nContent-Type: text/plain; charset=klingon\r\n\r\n\xff\xfe",
        b"From: a@b.example\r\nContent-Type: multipart/mixed; boundary=x\r\n\r\n--x\r\nContent-Type: image/png\r\n\r\n",
        b"From: <<>>\r\nDate: never\r\nContent-Type: \x00\r\n\r\n\x00\x01",
        b"Subject: " + b"x" * 100_000 + b"\r\n\r\n" + b"y" * 100_000,
    ],
    ids=["empty", "junk", "binary", "long name", "raw bytes", "unknown words", "unknown set", "cut off", "nothing",
         "endless"],
)  # fmt: skip
def test_whatever_comes_first_the_next_one_is_read_and_nothing_vanishes(post, bad):
    made = post(bad, GOOD)
    assert made[-1].what_is_wrong.startswith("Trapped in lift B")
    assert len(made) + MailUnread.objects.count() == 2
    assert not list(post.box.folder.glob("*.eml"))


def test_raw_bytes_in_headers_are_read_as_what_they_most_likely_are(post):
    utf8 = "From: Jürg <j@elsewhere.example>\r\nSubject: Tür klemmt\r\n\r\nTür".encode()
    latin = "From: Jürg <k@elsewhere.example>\r\nSubject: Tür klemmt\r\n\r\nTür".encode("latin-1")
    wrong = b"From: a@b.example\r\nSubject: x\r\nContent-Type: text/plain; charset=us-ascii\r\n\r\n" + "Tür".encode()
    made = post(utf8, latin, wrong)
    assert [row.what_is_wrong for row in made] == ["Tür klemmt\n\nTür", "Tür klemmt\n\nTür", "x\n\nTür"]
    assert [row.from_name for row in made][:2] == ["Jürg", "Jürg"]


def test_thirty_megabytes_make_a_request_that_says_what_was_too_large(post):
    mail = EmailMessage()
    mail["From"], mail["Subject"] = "a@b.example", "Plans of the shaft"
    mail.set_content("See attached.")
    mail.add_attachment(b"%PDF" + b"0" * 22_000_000, maintype="application", subtype="pdf", filename="shaft.pdf")
    mail.add_attachment(b"\x89PNG", maintype="image", subtype="png", filename="pit.png")
    raw = mail.as_bytes()
    assert len(raw) > 28_000_000
    [request] = post(raw)
    assert [file.name for file in files.of("request", request.pk)] == ["pit.png"]
    from apps.intake import queries

    assert any("larger than 12 MB" in (entry.changes.get("note") or "") for entry in queries.history(request.pk).rows)
    assert (post.box.folder / "read" / "0.eml").exists()


def test_what_is_larger_than_can_be_read_is_listed_and_kept(post, monkeypatch, dispatcher):
    monkeypatch.setattr(mail_commands, "LARGEST", 100)
    assert post(GOOD) == []
    [row] = dispatcher.get("/intake/mail").json()
    assert row["why"] == "It is larger than 0 MB."
    assert dispatcher.client.get(f"/api/v1/intake/mail/{row['id']}").content == GOOD
    monkeypatch.setattr(mail_commands, "LARGEST", 10**6)
    assert dispatcher.post(f"/intake/mail/{row['id']}/again").json()["request"] == Request.objects.get().number
    assert dispatcher.get("/intake/mail").json() == []


@pytest.mark.parametrize(
    "headers",
    [
        {"Auto_Submitted": "auto-generated"},
        {"Precedence": "bulk"},
        {"Return_Path": "<>"},
    ],
)
def test_what_a_machine_wrote_is_kept_and_never_answered(post, headers):
    [request] = post(letter(**headers))
    assert request.channel == "e-mail"
    assert not Message.objects.exists()


def test_a_person_is_answered_once_and_our_own_address_never(post, world, as_role, dispatcher):
    post(letter())
    assert Message.objects.count() == 1
    version = as_role("administrator").get("/company/settings").json()["version"]
    changed = as_role("administrator").post(
        "/company/settings", {"version": version, "changes": {"own_addresses": ["service@lifts.example"]}}
    )
    assert changed.status_code == 200, changed.json()
    post(letter(sender="Us <Service@lifts.example>", subject="forwarded"))
    assert Message.objects.count() == 1


def test_an_automatic_answer_and_a_bounce_make_no_request(post):
    post(letter())
    ours = Message.objects.get()
    away = letter(subject="Out of office", Auto_Submitted="auto-replied", In_Reply_To="<unknown@elsewhere.example>")
    bounce = letter(sender="MAILER-DAEMON@elsewhere.example", subject="Undelivered", Auto_Submitted="auto-replied")
    assert post(away, bounce) == []
    assert MailUnread.objects.count() == 2
    # What answers our own message is noted where it belongs, and answers nobody.
    post(letter(subject="Out of office", Auto_Submitted="auto-replied", In_Reply_To=ours.message_id))
    assert (Request.objects.count(), Message.objects.count()) == (1, 1)


def test_an_answer_is_known_by_what_it_answers_not_by_its_subject(post):
    [request] = post(letter())
    ours = Message.objects.get()
    post(letter(subject="no number here", sender="someone@else.example", In_Reply_To=ours.message_id))
    post(letter(subject="nor here", References=f"<other@x.example> {ours.message_id}"))
    assert Request.objects.count() == 1
    from apps.intake import queries

    notes = [entry.changes.get("note", "") for entry in queries.history(request.pk).rows]
    assert [bool(re.search("no number here|nor here", note)) for note in notes].count(True) == 2


def test_a_number_in_a_subject_counts_only_from_somebody_the_request_knows(post, world):
    [request] = post(letter(sender="Porter <office@seagate.example>"))
    post(letter(sender="Stranger <x@attacker.example>", subject=f"Re: {request.number} cancel it all"))
    assert Request.objects.count() == 2
    post(letter(sender="porter@seagate.example", subject=f"Re: {request.number} more"))
    assert Request.objects.count() == 3
    Customer.objects.get().contacts.create(name="Porter", email="porter@seagate.example")
    post(letter(sender="porter@seagate.example", subject=f"Re: {request.number} even more"))
    assert Request.objects.count() == 3


def test_pictures_reach_the_order_those_that_came_before_and_those_after(post, world, dispatcher):
    def pictured(name, **headers):
        mail = EmailMessage()
        mail["From"], mail["Subject"] = "office@seagate.example", headers.pop("subject", "Door")
        mail["Message-ID"] = f"<{name}@seagate.example>"
        for key, value in headers.items():
            mail[key.replace("_", "-")] = value
        mail.set_content("See picture")
        mail.add_attachment(b"\x89PNG", maintype="image", subtype="png", filename=name)
        return mail.as_bytes()

    [request] = post(pictured("before.png"))
    made = dispatcher.post("/orders", {"request_id": request.pk, "version": request.version})
    assert made.status_code == 201, made.json()
    post(pictured("after.png", subject="Re: Door", In_Reply_To="<before.png@seagate.example>"))
    order = WorkOrder.objects.get()
    assert [row["name"] for row in dispatcher.get(f"/files/order/{order.pk}").json()] == ["after.png", "before.png"]

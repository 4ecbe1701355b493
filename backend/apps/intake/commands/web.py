"""The public form. Its protection: a signed form that counts once, a least time to fill it in, a field only machines
fill in, and a limit to how many come from one address. Nobody is thanked for what was not kept."""

import hashlib
import secrets
from datetime import datetime, timedelta

from django.core import signing
from django.db import IntegrityError, connection, transaction

from apps.customers.models import Contact, Customer
from apps.intake.commands.requests import Sender, note_from_outside
from apps.intake.models import FormSent, Request
from foundation.errors import Conflict, Rejected, TryAgain
from foundation.outside import Outside

SALT = "public form"
LEAST_SECONDS = 3
LONGEST_SECONDS = 4 * 3600
MOST_PER_HOUR = 6
# From so many an hour on nobody is answered by itself: the form stays open, and is no way to send mail to others.
ANSWERED_PER_HOUR = 120
_COUNTING = 0x0F0_41  # one of our advisory locks: counts from one address come one after the other


def new_form(*, now: datetime) -> str:
    """A form to fill in: signed, so that nobody sends in what was never handed out."""
    return signing.dumps({"form": secrets.token_urlsafe(12), "at": int(now.timestamp())}, salt=SALT)


@transaction.atomic
def send_form(
    *, now: datetime, form: str, origin: str, trap: str, name: str, phone: str, email: str, address: str, text: str
) -> Request:
    """Take what somebody wrote on the public form.

    Raises
    ------
    Rejected
        When the form is not ours or too old, too little was filled in, or a machine has filled it in.
    Conflict
        When it was sent already.
    TryAgain
        When too many came from there, or it comes so soon after the form was opened that a machine must have sent it.
    """
    made = _opened(form, now)
    if trap.strip():
        raise Rejected(
            "This was not kept: a hidden field is filled in, as machines do. Load the page again, or call us.",
            code="machine",
        )
    if int(now.timestamp()) - made["at"] < LEAST_SECONDS:
        raise TryAgain("That was too quick for us. Press “Send it” once more.", code="too_quick", status=429)
    if not name.strip():
        raise Rejected("Say who you are.", field="name")
    if not phone.strip() and "@" not in email:
        raise Rejected("Leave a phone number or an e-mail address, so that we can answer.", field="phone")
    if len(text.strip()) < 5:
        raise Rejected("Say in a few words what is wrong.", field="text")
    origin = hashlib.sha256(f"{SALT} {origin}".encode()).hexdigest()[:40]
    _one_after_the_other(origin)
    recent = FormSent.objects.filter(at__gt=now - timedelta(hours=1))
    if recent.filter(origin=origin).count() >= MOST_PER_HOUR:
        raise TryAgain(
            "Too many requests came in just now. Call us, or try again in an hour.", code="too_many", status=429
        )
    try:
        with transaction.atomic():
            FormSent.objects.create(form=made["form"], origin=origin, at=now)
    except IntegrityError as error:
        raise Conflict("This form was sent already. Open it again to send another one.", code="sent") from error
    customer = known_sender(email)
    sites = list(customer.sites.all()[:2]) if customer else []
    return note_from_outside(
        actor=Outside(name="Web page"), now=now, text=text, customer=customer,
        site=sites[0] if len(sites) == 1 else None, silent=recent.count() > ANSWERED_PER_HOUR,
        sender=Sender(
            channel="web", name=name.strip(), phone=phone.strip(), email=email.strip(), address=address.strip()
        ),
    )  # fmt: skip


def _one_after_the_other(origin: str) -> None:
    """Until the transaction ends: of many at once from one address each sees those before it."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_advisory_xact_lock(%s, %s)", [_COUNTING, int(origin[:7], 16)])


def _opened(form: str, now: datetime) -> dict[str, int]:
    try:
        found: dict[str, int] = signing.loads(form, salt=SALT)
    except signing.BadSignature as error:
        raise Rejected("This form is not valid. Load the page again.", code="form") from error
    if not 0 <= int(now.timestamp()) - found["at"] <= LONGEST_SECONDS:
        raise Rejected("This form was open for too long. Load the page again; copy your text first.", code="form")
    return found


def known_sender(email: str) -> Customer | None:
    """The one customer that has this e-mail address, itself or through a contact; None when none or several have."""
    if "@" not in email:
        return None
    own = Customer.objects.filter(email__iexact=email.strip(), merged_into__isnull=True)
    people = Contact.objects.filter(email__iexact=email.strip(), customer__merged_into__isnull=True)
    ids = set(own.values_list("pk", flat=True)[:3]) | set(people.values_list("customer_id", flat=True)[:3])
    return Customer.objects.get(pk=ids.pop()) if len(ids) == 1 else None

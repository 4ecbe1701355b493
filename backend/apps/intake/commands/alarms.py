"""Alarms of connected devices."""

import hashlib
import secrets
from datetime import datetime

from django.db import transaction

from apps.catalogue.queries import called
from apps.customers.models import Asset
from apps.intake.commands.requests import Sender, note_from_outside
from apps.intake.inputs import Reading
from apps.intake.models import Alarm, DeviceKey, Request
from foundation import audit, live
from foundation.errors import NotFound, NotPermitted
from foundation.outside import Outside

# How pressing an alarm is, by its kind; a kind that is not named is worth a look.
PRIORITY = {"trapped": 1, "stopped": 2, "worsening": 4}
USUAL_PRIORITY = 3


def digest_of(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()


@transaction.atomic
def make_device_key(*, name: str, token: str = "") -> str:
    """A token for a device service. It is shown once; only its digest is kept."""
    token = token or secrets.token_urlsafe(24)
    DeviceKey.objects.update_or_create(name=name, defaults={"digest": digest_of(token), "active": True})
    return token


def device_named(token: str) -> str:
    """The device service that has this token.

    Raises
    ------
    NotPermitted
    """
    name = DeviceKey.objects.filter(digest=digest_of(token), active=True).values_list("name", flat=True).first()
    if not token or name is None:
        raise NotPermitted("This token is not known.", code="no_token")
    return name


@transaction.atomic
def receive_alarm(*, now: datetime, device: str, reading: Reading) -> tuple[Request, bool]:
    """Note an alarm: on the open request of that asset if it has one, else on a new one; whether it made one.

    Raises
    ------
    NotFound
        When no asset has that serial number.
    """
    asset = (
        Asset.objects.select_for_update(of=("self",))
        .select_related("site__customer")
        .filter(serial__iexact=reading.serial)
        .first()
    )
    if asset is None:
        raise NotFound(f"No asset has the serial number {reading.serial}.", code="no_asset")
    # The asset is locked: of two at the same moment the second one sees the first.
    reference = reading.reference[:80]
    same = Alarm.objects.select_related("request").filter(device=device, asset=asset, reference=reference)
    known = same.first()
    if known is not None and known.request is not None:
        return known.request, False
    actor = Outside(name=device)
    open_ = _open_request(asset)
    priority = PRIORITY.get(reading.kind, USUAL_PRIORITY)
    if open_ is None:
        request = note_from_outside(
            actor=actor, now=now, text=_words(asset, reading), sender=Sender(channel="alarm", name=device),
            customer=asset.site.customer, site=asset.site, asset_id=asset.pk, priority=priority,
            job_type=called(reading.kind),
        )  # fmt: skip
    else:
        request = open_
        audit.note(actor=actor, now=now, entity="request", entity_id=request.pk, text=_words(asset, reading))
        _raise(actor, now, request, priority)
    Alarm.objects.create(
        asset=asset, request=request, kind=reading.kind[:40], text=reading.text[:300], value=reading.value,
        unit=reading.unit[:20], at=reading.at, device=device, reference=reference,
    )  # fmt: skip
    live.announce("request", ids=[request.pk])
    return request, open_ is None


def _open_request(asset: Asset) -> Request | None:
    """The request about that asset that is not settled: new, or ordered and the work not done."""
    rows = Request.objects.select_for_update(of=("self",)).filter(asset=asset)
    waiting = rows.filter(state="new") | rows.filter(
        state="ordered", order__state__in=("draft", "open", "planned", "under_way")
    )
    return waiting.order_by("-id").first()


def _raise(actor: Outside, now: datetime, request: Request, priority: int) -> None:
    """A worse alarm makes a request that waits more pressing; what was ordered is the dispatcher's to judge."""
    if request.state != "new" or priority >= request.priority:
        return
    request.priority = priority
    request.version += 1
    request.save(update_fields=["priority", "version"])
    audit.record(
        actor=actor, now=now, action="raise", entity="request", entity_id=request.pk, version=request.version,
        sentence=f"raised its priority to {priority}",
    )  # fmt: skip


def _words(asset: Asset, reading: Reading) -> str:
    value = f" ({reading.value:g} {reading.unit})".replace(" )", ")") if reading.value is not None else ""
    return f"{asset.words}: {reading.text or reading.kind}{value}"

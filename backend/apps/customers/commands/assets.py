"""Assets: the equipment at a site."""

from dataclasses import asdict
from datetime import datetime
from typing import Any

from django.db import transaction

from apps.company.queries import record_fields
from apps.customers.commands.changing import apply, checked_extra, in_words, lock
from apps.customers.inputs import AssetFields
from apps.customers.models import Asset, Site
from apps.customers.search import make_findable
from core.forms import file_answers
from core.roles import Action
from foundation import audit, files, live
from foundation.actors import Actor, require
from foundation.errors import NotFound, Rejected

_WORDS = {"parent_id": "what it is part of", "installed_on": "date of installation", "warranty_until": "warranty",
          "extra": "own fields"}  # fmt: skip


@transaction.atomic
def add_asset(*, actor: Actor, now: datetime, site_id: int, fields: AssetFields) -> Asset:
    """A new piece of equipment at a site."""
    require(actor, Action.CHANGE_CUSTOMERS)
    site = Site.objects.filter(pk=site_id).first()
    if site is None:
        raise NotFound("There is no such site.", code="no_site")
    asset = Asset(site=site)
    apply(asset, _checked(asset, fields))
    asset.save()
    pictures = file_answers(record_fields("asset"), asset.extra)
    files.take_up(actor=actor, ids=pictures, to=("asset", asset.pk))
    make_findable([site.customer_id])
    audit.record(
        actor=actor, now=now, action="add", entity="asset", entity_id=asset.pk, version=1, sentence="added it",
        serial=asset.serial,
    )  # fmt: skip
    live.announce("customer", ids=[site.customer_id])
    return asset


@transaction.atomic
def change_asset(*, actor: Actor, now: datetime, asset_id: int, version: int, fields: AssetFields) -> Asset:
    """Change a piece of equipment."""
    require(actor, Action.CHANGE_CUSTOMERS)
    asset = lock(Asset, asset_id, version, "asset")
    changed = apply(asset, _checked(asset, fields))
    if changed:
        asset.version += 1
        asset.save()
        make_findable([asset.site.customer_id])
        audit.record(
            actor=actor, now=now, action="change", entity="asset", entity_id=asset.pk, version=asset.version,
            sentence=f"changed {in_words(changed, _WORDS)}", values=changed,
        )  # fmt: skip
        live.announce("customer", ids=[asset.site.customer_id])
    return asset


def _checked(asset: Asset, fields: AssetFields) -> dict[str, Any]:
    if not fields.kind.strip():
        raise Rejected("Say what kind of equipment it is.", field="kind")
    if fields.state not in dict(Asset.STATES):
        raise Rejected(f"An asset cannot be “{fields.state}”.", field="state")
    if fields.installed_on and fields.warranty_until and fields.warranty_until < fields.installed_on:
        raise Rejected("The warranty cannot end before the installation.", field="warranty_until")
    _check_parent(asset, fields.parent_id)
    values = {name: value.strip() if isinstance(value, str) else value for name, value in asdict(fields).items()}
    values["extra"] = checked_extra("asset", fields.extra, required=asset.pk is not None or bool(fields.extra))
    return values


def _check_parent(asset: Asset, parent_id: int | None) -> None:
    """A part lies at the same site, and nothing is a part of its own part."""
    seen = {asset.pk}
    while parent_id is not None:
        if parent_id in seen:
            raise Rejected("It would be a part of itself.", field="parent_id")
        parent = Asset.objects.filter(pk=parent_id, site_id=asset.site_id).first()
        if parent is None:
            raise Rejected("What it is part of must be at the same site.", field="parent_id")
        seen.add(parent_id)
        parent_id = parent.parent_id

"""Two areas made into one: sites, technicians and roles of the first are of the second."""

from datetime import datetime
from typing import Any

from django.db import models, transaction

from apps.company import commands as company
from apps.company.models import Area
from apps.customers.models import Site
from apps.people.models import OwnRole, Technician, TechnicianWish
from foundation.actors import Actor


@transaction.atomic
def merge_area(*, actor: Actor, now: datetime, area_id: int, version: int, into: int) -> Area:
    """Make two areas one, with the outline of both; answers the one that is kept.

    Raises
    ------
    NotFound, Rejected, Conflict
        As for `company.commands.join_areas`.
    """
    gone, kept = company.join_areas(actor=actor, now=now, area_id=area_id, version=version, into=into)
    Site.objects.filter(area=gone).update(area=kept, version=models.F("version") + 1)
    _move(Technician.areas.through, "technician_id", gone, kept)
    _move(OwnRole.areas.through, "ownrole_id", gone, kept)
    _move(TechnicianWish, "technician_id", gone, kept)
    return kept


def _move(model: Any, holder: str, gone: Area, kept: Area) -> None:
    """Whoever has the first has the second; who had both has it once, as they had it."""
    rows = model.objects.filter(area=gone)
    rows.filter(**{f"{holder}__in": model.objects.filter(area=kept).values(holder)}).delete()
    rows.update(area=kept)

"""Tables of stock."""

from typing import ClassVar

from django.db import models

from foundation.models import Versioned
from foundation.named import Named

# So many of a part fit on no van.
MOST = 100_000


class Part(Named):
    """Something that visits take from a van."""


class VanPart(Versioned):
    """How many of a part lie on a technician's van. A van without any row is not counted."""

    technician = models.ForeignKey("people.Technician", on_delete=models.CASCADE, related_name="van_parts")
    part = models.ForeignKey(Part, on_delete=models.PROTECT, related_name="on_vans")
    quantity = models.PositiveIntegerField()

    class Meta:
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["technician", "part"], name="one_row_per_part_and_van"),
        ]

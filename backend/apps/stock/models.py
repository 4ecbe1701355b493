"""Tables of stock."""

from typing import ClassVar

from django.db import models
from django.db.models.functions import Lower

from foundation.models import Versioned

# So many of a part fit on no van.
MOST = 100_000


class VanPart(Versioned):
    """How many of a part lie on a technician's van. A van without any row is not counted."""

    technician = models.ForeignKey("people.Technician", on_delete=models.CASCADE, related_name="van_parts")
    part = models.CharField(max_length=80)
    quantity = models.PositiveIntegerField()

    class Meta:
        constraints: ClassVar = [
            models.UniqueConstraint("technician", Lower("part"), name="one_row_per_part_and_van"),
        ]

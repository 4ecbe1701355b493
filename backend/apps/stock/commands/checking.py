"""The nightly check: levels against the sum of their movements."""

from datetime import datetime

from django.db import connection, transaction

from apps.stock.models import Level, LevelAlarm

# One pass over all movements; what differs between a level and its sum, of places that are counted. One statement sees
# both tables as of one moment, so nobody who moves parts meanwhile has to wait.
_DIFFERENCES = """
WITH sums AS (
    SELECT place_id, part_id, SUM(quantity)::bigint AS summed FROM (
        SELECT target_id AS place_id, part_id, quantity FROM stock_movement
        UNION ALL
        SELECT source_id AS place_id, part_id, -quantity FROM stock_movement
    ) AS both_ends
    JOIN stock_stockplace place ON place.id = place_id
        AND place.kind IN ('depot', 'van', 'in transit', 'set aside')
    GROUP BY place_id, part_id
)
SELECT COALESCE(level.place_id, sums.place_id), COALESCE(level.part_id, sums.part_id),
       COALESCE(level.quantity, 0), COALESCE(sums.summed, 0)
FROM sums FULL JOIN stock_level level ON level.place_id = sums.place_id AND level.part_id = sums.part_id
WHERE COALESCE(level.quantity, 0) <> COALESCE(sums.summed, 0)
"""


def check_levels(*, now: datetime) -> list[LevelAlarm]:
    """Find levels that are not the sum of their movements, and keep an alarm of each until they are. Nothing is put
    right by itself: what made them differ is to be found first. Safe to run twice."""
    with transaction.atomic():
        with connection.cursor() as cursor:
            cursor.execute(_DIFFERENCES)
            rows = cursor.fetchall()
        LevelAlarm.objects.all().delete()
        return LevelAlarm.objects.bulk_create(
            LevelAlarm(place_id=place, part_id=part, kept=kept, summed=summed, found_at=now)
            for place, part, kept, summed in rows
        )


def below_zero() -> list[Level]:
    """Levels that the company lets go below zero, and that are."""
    return list(Level.objects.select_related("part", "place").filter(quantity__lt=0).order_by("place_id", "part_id"))

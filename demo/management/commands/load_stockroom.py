"""Beside the crowd: 5,000 parts in 200 places, five million movements that end in exactly those levels, and parts that
the crowd's visits take; to measure."""

from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import connection

from apps.company.models import Depot
from apps.people.models import Technician
from apps.stock.models import StockPlace
from core.stock import PlaceKind

PARTS, PLACES, MOVES = 5_000, 200, 5
"""So many movements bring each level to what it is: a million levels, five million movements."""

_PARTS = """
INSERT INTO stock_part (code, name, number, retired, merged_into, version, unit, supplier_number, gtin, tracking,
    hazardous, oversized, fits, untidy, cost)
SELECT 'bench-' || n, 'Bench part ' || n, 'BP-' || n, false, '', 1, 'C62', '', '', 'plain', false, false, '{}', false,
    100 + n FROM generate_series(1, %s) n
"""
_MOVES = """
INSERT INTO stock_movement (key, position, part_id, quantity, source_id, target_id, reason, serials, batch, unit_cost,
    happened_at, recorded_at, actor_name, note)
SELECT gen_random_uuid(), 0, part.id, 2, %s, place.id, 'count', '{}', '', part.cost,
    now() - n * interval '60 days', now() - n * interval '60 days', 'Bench', ''
FROM generate_series(1, %s) n, stock_stockplace place, stock_part part
WHERE place.id = ANY(%s) AND part.code LIKE 'bench-%%'
"""
_LEVELS = """
INSERT INTO stock_level (place_id, part_id, quantity, shelf, by_hand, version)
SELECT place.id, part.id, 2 * %s, '', false, 1 FROM stock_stockplace place, stock_part part
WHERE place.id = ANY(%s) AND part.code LIKE 'bench-%%'
"""
_TAKES = """
UPDATE orders_visit SET takes = jsonb_build_object('bench-' || (id %% %s + 1), 1, 'bench-' || (id * 7 %% %s + 1), 3)
WHERE order_id IN (SELECT id FROM orders_workorder WHERE number LIKE 'C-%%')
"""


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--moves", type=int, default=MOVES)

    def handle(self, *_args: Any, **options: Any) -> None:
        if not settings.DEMO:
            raise CommandError("This is not a demo (RELAY_DEMO is not set).")
        places, moves = _places(), options["moves"]
        nobodys, _made = StockPlace.objects.get_or_create(kind=PlaceKind.DIFFERENCE)
        with connection.cursor() as cursor:
            cursor.execute(_PARTS, [PARTS])
            cursor.execute(_LEVELS, [moves, places])
            # Whoever is there is known to be there: nothing is looked up five million times.
            cursor.execute("SET session_replication_role = replica")
            cursor.execute(_MOVES, [nobodys.pk, moves, places])
            cursor.execute("SET session_replication_role = origin")
            cursor.execute(_TAKES, [PARTS, PARTS])
            cursor.execute("ANALYZE")  # so much at once: the database has to be told what is there now


def _places() -> list[int]:
    """Depots first, then the vans of the first technicians."""
    for depot in Depot.objects.filter(stock=None):
        StockPlace.objects.create(kind=PlaceKind.DEPOT, depot=depot)
    for technician in Technician.objects.filter(vehicle=None, stock=None).order_by("id"):
        StockPlace.objects.create(kind=PlaceKind.VAN, technician=technician)
    rows = StockPlace.objects.filter(kind__in=[PlaceKind.DEPOT, PlaceKind.VAN]).order_by("kind", "id")
    return list(rows.values_list("pk", flat=True)[:PLACES])

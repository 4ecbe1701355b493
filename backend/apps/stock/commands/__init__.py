"""Writing stock: one function per intention. All levels change through `move`."""

from apps.stock.commands.checking import below_zero, check_levels
from apps.stock.commands.levels import correct, count, count_at, put_count_back, set_level
from apps.stock.commands.moving import move
from apps.stock.commands.parts import name_parts, put_part
from apps.stock.commands.places import (
    nobodys,
    place_of_depot,
    place_of_site,
    place_of_supplier,
    place_of_van,
    place_of_vehicle,
)
from apps.stock.commands.suppliers import put_supplier
from apps.stock.commands.transfers import Planned, complete_transfers, drop_transfer, plan_transfer
from apps.stock.commands.using import Used, take

__all__ = [
    "Planned",
    "Used",
    "below_zero",
    "check_levels",
    "complete_transfers",
    "correct",
    "count",
    "count_at",
    "drop_transfer",
    "move",
    "name_parts",
    "nobodys",
    "place_of_depot",
    "place_of_site",
    "place_of_supplier",
    "place_of_van",
    "place_of_vehicle",
    "plan_transfer",
    "put_count_back",
    "put_part",
    "put_supplier",
    "set_level",
    "take",
]

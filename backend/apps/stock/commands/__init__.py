"""Writing stock: one function per intention. All levels change through `move`."""

from apps.stock.commands.booking import book_by_hand
from apps.stock.commands.checking import below_zero, check_levels
from apps.stock.commands.counting import (
    begin_count,
    book_count,
    counted,
    drop_count,
    enter_found,
    explain,
    finish_count,
    second_needed,
)
from apps.stock.commands.levels import correct, count, count_at, put_count_back, set_level
from apps.stock.commands.merging import merge_parts
from apps.stock.commands.moving import move
from apps.stock.commands.parts import name_parts, put_part, set_photo
from apps.stock.commands.places import (
    nobodys,
    open_places,
    place_of_depot,
    place_of_site,
    place_of_supplier,
    place_of_van,
    place_of_vehicle,
)
from apps.stock.commands.suppliers import put_supplier
from apps.stock.commands.tracking import lying
from apps.stock.commands.transfers import Planned, complete_transfers, drop_transfer, plan_transfer
from apps.stock.commands.using import Used, UsedLine, give_back, take, use

__all__ = [
    "Planned",
    "Used",
    "UsedLine",
    "begin_count",
    "below_zero",
    "book_by_hand",
    "book_count",
    "check_levels",
    "complete_transfers",
    "correct",
    "count",
    "count_at",
    "counted",
    "drop_count",
    "drop_transfer",
    "enter_found",
    "explain",
    "finish_count",
    "give_back",
    "lying",
    "merge_parts",
    "move",
    "name_parts",
    "nobodys",
    "open_places",
    "place_of_depot",
    "place_of_site",
    "place_of_supplier",
    "place_of_van",
    "place_of_vehicle",
    "plan_transfer",
    "put_count_back",
    "put_part",
    "put_supplier",
    "second_needed",
    "set_level",
    "set_photo",
    "take",
    "use",
]

"""Writing day logs."""

from apps.daylogs.commands.receipts import add_piece, is_receipt
from apps.daylogs.commands.recording import (
    add_fuel,
    clock_off,
    clock_on,
    drop_fuel,
    explain,
    pause,
    say_vehicle,
    type_time,
)

__all__ = [
    "add_fuel",
    "add_piece",
    "clock_off",
    "clock_on",
    "drop_fuel",
    "explain",
    "is_receipt",
    "pause",
    "say_vehicle",
    "type_time",
]

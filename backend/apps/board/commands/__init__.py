"""What is done on the board."""

from apps.board.commands.bulk import bulk
from apps.board.commands.forward import bring_forward
from apps.board.commands.giving import give
from apps.board.commands.locking import lock_days, lock_order
from apps.board.commands.own_reminders import remind_person, settle_reminder, think_of
from apps.board.commands.placing import (
    edit,
    pin,
    place,
    place_first,
    step_for,
    stretch,
    unplace,
)
from apps.board.commands.reminders import change_reminder, forget, remind
from apps.board.commands.sending import Sent, send, send_day

__all__ = [
    "Sent",
    "bring_forward",
    "bulk",
    "change_reminder",
    "edit",
    "forget",
    "give",
    "lock_days",
    "lock_order",
    "pin",
    "place",
    "place_first",
    "remind",
    "remind_person",
    "send",
    "send_day",
    "settle_reminder",
    "step_for",
    "stretch",
    "think_of",
    "unplace",
]

"""What is done in planning: on the board, with playbooks, and with planning runs."""

from apps.planning.commands.board import (
    edit,
    pin,
    place,
    place_first,
    step_for,
    stretch,
    unplace,
)
from apps.planning.commands.bulk import Outcome, Wanted, bulk
from apps.planning.commands.forward import bring_forward
from apps.planning.commands.giving import Move, give
from apps.planning.commands.locking import lock_days, lock_order
from apps.planning.commands.playbooks import make_default, make_playbook, save_playbook
from apps.planning.commands.reminders import change_reminder, forget, remind
from apps.planning.commands.runs import accept, start_run, stop_run
from apps.planning.commands.sending import Sent, send, send_day
from apps.planning.commands.undoing import redo, undo

__all__ = [
    "Move",
    "Outcome",
    "Sent",
    "Wanted",
    "accept",
    "bring_forward",
    "bulk",
    "change_reminder",
    "edit",
    "forget",
    "give",
    "lock_days",
    "lock_order",
    "make_default",
    "make_playbook",
    "pin",
    "place",
    "place_first",
    "redo",
    "remind",
    "save_playbook",
    "send",
    "send_day",
    "start_run",
    "step_for",
    "stop_run",
    "stretch",
    "undo",
    "unplace",
]

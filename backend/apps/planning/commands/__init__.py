"""What is done in planning: on the board, with playbooks, and with planning runs."""

from apps.planning.commands.board import edit, place, send, send_day, step_for, undo, unplace
from apps.planning.commands.playbooks import make_default, make_playbook, save_playbook
from apps.planning.commands.runs import accept, start_run, stop_run

__all__ = [
    "accept",
    "edit",
    "make_default",
    "make_playbook",
    "place",
    "save_playbook",
    "send",
    "send_day",
    "start_run",
    "step_for",
    "stop_run",
    "undo",
    "unplace",
]

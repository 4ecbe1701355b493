"""Writing reports."""

from apps.reports.commands.pictures import add_piece, remove_picture, tell_of_picture
from apps.reports.commands.recording import accept_work, answer, look, set_task, write_note

__all__ = [
    "accept_work",
    "add_piece",
    "answer",
    "look",
    "remove_picture",
    "set_task",
    "tell_of_picture",
    "write_note",
]

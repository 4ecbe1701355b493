"""Writing reports."""

from apps.reports.commands.efforts import drop_charge, nothing_more, put_charge, say_time, set_mileage
from apps.reports.commands.parts import drop_part, on_stepped, planned_line, remove_part, use_part
from apps.reports.commands.pictures import add_piece, remove_picture, tell_of_picture
from apps.reports.commands.recording import accept_work, answer, look, set_task, write_note
from apps.reports.commands.sending import SEND_REPORT, mail_report, send_from_field, send_report

__all__ = [
    "SEND_REPORT",
    "accept_work",
    "add_piece",
    "answer",
    "drop_charge",
    "drop_part",
    "look",
    "mail_report",
    "nothing_more",
    "on_stepped",
    "planned_line",
    "put_charge",
    "remove_part",
    "remove_picture",
    "say_time",
    "send_from_field",
    "send_report",
    "set_mileage",
    "set_task",
    "tell_of_picture",
    "use_part",
    "write_note",
]

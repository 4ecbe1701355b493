"""Taking requests, whichever way they come."""

from apps.intake.commands.alarms import receive_alarm
from apps.intake.commands.mail import read_again, read_mailbox, remember_sent, settle
from apps.intake.commands.requests import (
    Sender,
    answer_request,
    check_needs,
    close_request,
    complete_request,
    join_requests,
    lock_new,
    mark_ordered,
    note_from_outside,
    take_request,
    work_of,
)
from apps.intake.commands.web import new_form, send_form

__all__ = [
    "Sender",
    "answer_request",
    "check_needs",
    "close_request",
    "complete_request",
    "join_requests",
    "lock_new",
    "mark_ordered",
    "new_form",
    "note_from_outside",
    "read_again",
    "read_mailbox",
    "receive_alarm",
    "remember_sent",
    "send_form",
    "settle",
    "take_request",
    "work_of",
]

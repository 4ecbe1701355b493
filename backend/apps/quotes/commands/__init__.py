"""Writes: quotes from the first line to the order they become."""

from apps.quotes.commands.answering import answer_question, ask, mark_seen, refuse
from apps.quotes.commands.approving import approve, approve_on_paper, file_missing_papers, file_paper, make_order_of
from apps.quotes.commands.deadlines import expire_overdue, follow_up
from apps.quotes.commands.editing import change_quote, make_quote, revise
from apps.quotes.commands.sending import agree_discount, revoke_address, send_quote, withdraw
from apps.quotes.commands.surveys import ask_for_survey

__all__ = [
    "agree_discount",
    "answer_question",
    "approve",
    "approve_on_paper",
    "ask",
    "ask_for_survey",
    "change_quote",
    "expire_overdue",
    "file_missing_papers",
    "file_paper",
    "follow_up",
    "make_order_of",
    "make_quote",
    "mark_seen",
    "refuse",
    "revise",
    "revoke_address",
    "send_quote",
    "withdraw",
]

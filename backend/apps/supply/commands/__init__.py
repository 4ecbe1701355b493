"""Writing supply: one function per intention."""

from apps.supply.commands.claims import send_back, settle, take_back
from apps.supply.commands.errands import follow_errand
from apps.supply.commands.loans import bring_back, extend, fetch_back, lend, remind_borrowers
from apps.supply.commands.picking import leave_at_depot, pick
from apps.supply.commands.purchasing import (
    SEND_PAPER,
    add_to_proposal,
    cancel_order,
    expect_on,
    mail_order,
    new_proposal,
    propose,
    put_lines,
    receive,
    send_order,
)
from apps.supply.commands.requests import ask, hand_over, on_dropped, on_received, order_for, promise, refuse
from apps.supply.commands.taking import Taken, take_way
from apps.supply.commands.thresholds import accept_thresholds

__all__ = [
    "SEND_PAPER",
    "Taken",
    "accept_thresholds",
    "add_to_proposal",
    "ask",
    "bring_back",
    "cancel_order",
    "expect_on",
    "extend",
    "fetch_back",
    "follow_errand",
    "hand_over",
    "leave_at_depot",
    "lend",
    "mail_order",
    "new_proposal",
    "on_dropped",
    "on_received",
    "order_for",
    "pick",
    "promise",
    "propose",
    "put_lines",
    "receive",
    "refuse",
    "remind_borrowers",
    "send_back",
    "send_order",
    "settle",
    "take_back",
    "take_way",
]

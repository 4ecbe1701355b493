"""Changing orders and visits."""

from apps.orders.commands.following import follow
from apps.orders.commands.happening import was_done
from apps.orders.commands.mates import take_own_step
from apps.orders.commands.oneoff import make_one_off
from apps.orders.commands.orders import change_order, make_order, restore
from apps.orders.commands.pricing import add_lines, reset_lines, set_lines
from apps.orders.commands.promising import promise, tell_promised
from apps.orders.commands.sequences import (
    add_visit,
    link_visits,
    remove_visit,
    spread_over_days,
    turn_link,
    unlink_visits,
)
from apps.orders.commands.standby import put_on_standby, set_standby, take_off_standby
from apps.orders.commands.steps import TOLD, lock_visit, take_step
from apps.orders.commands.views import keep_view, remove_view
from apps.orders.commands.visits import change_visit, field_values, fields_of
from apps.orders.commands.working import change_work

__all__ = [
    "TOLD",
    "add_lines",
    "add_visit",
    "change_order",
    "change_visit",
    "change_work",
    "field_values",
    "fields_of",
    "follow",
    "keep_view",
    "link_visits",
    "lock_visit",
    "make_one_off",
    "make_order",
    "promise",
    "put_on_standby",
    "remove_view",
    "remove_visit",
    "reset_lines",
    "restore",
    "set_lines",
    "set_standby",
    "spread_over_days",
    "take_off_standby",
    "take_own_step",
    "take_step",
    "tell_promised",
    "turn_link",
    "unlink_visits",
    "was_done",
]

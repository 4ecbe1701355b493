"""Writes: who may sign in, and what they may do."""

from apps.accounts.commands.accounts import change_account, invite, invite_again, remove_second_factor, set_active
from apps.accounts.commands.passwords import choose_password
from apps.accounts.commands.roles import change_role, make_role, remove_role

__all__ = [
    "change_account",
    "change_role",
    "choose_password",
    "invite",
    "invite_again",
    "make_role",
    "remove_role",
    "remove_second_factor",
    "set_active",
]

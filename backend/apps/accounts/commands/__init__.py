"""Writes: who may sign in."""

from apps.accounts.commands.accounts import change_account, invite, invite_again, remove_second_factor, set_active
from apps.accounts.commands.passwords import choose_password

__all__ = ["change_account", "choose_password", "invite", "invite_again", "remove_second_factor", "set_active"]

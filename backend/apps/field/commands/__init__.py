"""What is done on the phone, and about phones."""

from apps.field.commands.deeds import Answer, take_in
from apps.field.commands.phones import register_phone, sign_out_phone
from apps.field.commands.settling import settle
from apps.field.commands.steps import take_step

__all__ = ["Answer", "register_phone", "settle", "sign_out_phone", "take_in", "take_step"]

"""What is done with appointments: booking a time, and promising one for a visit that waits."""

from apps.appointments.commands.booking import book, draft_of_wanted, take

__all__ = ["book", "draft_of_wanted", "take"]

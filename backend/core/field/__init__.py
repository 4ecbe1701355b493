"""What is done in the field and told later: what becomes of it, and when it happened."""

from core.field.deeds import LATE_SECONDS, Choice, Outcome, Told, is_late, placed_in_time

__all__ = ["LATE_SECONDS", "Choice", "Outcome", "Told", "is_late", "placed_in_time"]

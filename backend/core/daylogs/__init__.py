"""A technician's day beside the visits: its beginning and end, breaks, vehicle, fuel; and what is odd about it."""

from core.daylogs.summary import DayFacts, OddEntry, Stretch, Summary, VisitOfDay, odd_entries, summary

__all__ = ["DayFacts", "OddEntry", "Stretch", "Summary", "VisitOfDay", "odd_entries", "summary"]

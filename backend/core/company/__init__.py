"""What a company decides for itself, with the words that explain each decision."""

from core.company.settings import GROUPS, Explained, Settings, explained, settings_from
from core.company.templates import TEMPLATES, fill_in, unknown_words

__all__ = ["GROUPS", "TEMPLATES", "Explained", "Settings", "explained", "fill_in", "settings_from", "unknown_words"]

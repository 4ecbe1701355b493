"""What a company decides for itself, with the words that explain each decision."""

from core.company.public_holidays import countries, public_holidays, regions_of
from core.company.settings import GROUPS, Explained, Settings, explained, settings_from
from core.company.templates import TEMPLATES, fill_in, unknown_words

__all__ = [
    "GROUPS",
    "TEMPLATES",
    "Explained",
    "Settings",
    "countries",
    "explained",
    "fill_in",
    "public_holidays",
    "regions_of",
    "settings_from",
    "unknown_words",
]

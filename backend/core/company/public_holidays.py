"""Public holidays of countries and their parts.

Source: the `holidays` package, which keeps the laws of about 250 countries.
"""

from datetime import date
from types import ModuleType

FIRST_YEAR, LAST_YEAR = 2001, 2099


def _package() -> ModuleType:
    import holidays  # takes a third of a second to load, and only setting up needs it

    return holidays


def countries() -> list[str]:
    """Two letters of each country whose holidays are known, in order."""
    return sorted(code for code in _package().list_supported_countries() if len(code) == 2)


def regions_of(country: str) -> dict[str, str]:
    """What each part of a country is called, by its key; empty where all parts have the same holidays, or for a country
    that is not known."""
    known = _package().list_supported_countries()
    if country not in known:
        return {}
    aliases = _package().country_holidays(country).get_subdivision_aliases()
    return {key: (aliases.get(key) or [key])[0] for key in known[country]}


def public_holidays(country: str, region: str, year: int) -> list[tuple[date, str]]:
    """The public holidays of a year, in order; names in English where there are any.

    Parameters
    ----------
    region
        A key of `regions_of`; empty: those that the whole country has.

    Raises
    ------
    ValueError
        For a country, region or year that is not known.
    """
    if country not in countries() or not FIRST_YEAR <= year <= LAST_YEAR:
        raise ValueError(f"the holidays of {country or 'no country'} in {year} are not known")
    if region and region not in regions_of(country):
        raise ValueError(f"“{region}” is no region of {country}")
    known = _package().country_holidays(country)
    languages = known.supported_languages or ()
    language = next((name for name in ("en_US", "en_GB", "en") if name in languages), None)
    found = _package().country_holidays(country, subdiv=region or None, years=year, language=language)
    return [(day, found.get(day)) for day in sorted(found) if day.year == year]

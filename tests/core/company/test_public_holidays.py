"""Public holidays of countries and their parts."""

from datetime import date

import pytest

from core.company import countries, public_holidays, regions_of


def test_a_region_has_its_own_besides_those_of_the_country():
    country = dict(public_holidays("PT", "", 2027))
    azores = dict(public_holidays("PT", "20", 2027))
    assert azores.items() > country.items()
    assert azores.keys() - country.keys() == {date(2027, 5, 17)}  # Monday after Pentecost
    assert azores[date(2027, 12, 25)] == "Christmas Day"


def test_days_of_substitution_belong_to_the_year_in_which_they_are():
    for country in ("GB", "JP", "US", "AU"):
        days = [day for day, _name in public_holidays(country, "", 2027)]
        assert days == sorted(set(days))
        assert {day.year for day in days} == {2027}


def test_regions_are_called_as_people_call_them():
    assert regions_of("PT")["20"] == "Região Autónoma dos Açores"
    assert regions_of("DE")["BY"] == "Bayern"
    assert regions_of("XX") == {}


def test_every_country_has_holidays_with_names():
    assert len(countries()) > 200
    for code in countries()[::10]:
        found = public_holidays(code, "", 2027)
        assert all(name.strip() for _day, name in found)


@pytest.mark.parametrize(("country", "region", "year"), [("XX", "", 2027), ("PT", "99", 2027), ("PT", "", 1900)])
def test_what_is_not_known_is_refused(country, region, year):
    with pytest.raises(ValueError, match=r"known|no region"):
        public_holidays(country, region, year)

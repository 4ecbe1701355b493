"""Phone numbers in one notation, however they were written."""

import phonenumbers


def phone_key(text: str, country: str) -> str:
    """E.164 ("+351296555100") where it is a number of that country or an international one, else its digits.

    Parameters
    ----------
    country
        Two letters (ISO 3166): whose numbers are written without a country code.
    """
    try:
        number = phonenumbers.parse(text, country)
    except phonenumbers.NumberParseException:
        return digits_of(text)
    if not phonenumbers.is_possible_number(number):
        return digits_of(text)
    return phonenumbers.format_number(number, phonenumbers.PhoneNumberFormat.E164)


def digits_of(text: str) -> str:
    return "".join(letter for letter in text if letter.isdigit())


def is_phone_country(country: str) -> bool:
    return country in phonenumbers.SUPPORTED_REGIONS

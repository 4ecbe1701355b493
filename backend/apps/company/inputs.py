"""What is handed to the commands of the company."""

from dataclasses import dataclass


@dataclass(frozen=True, kw_only=True)
class CompanyFields:
    """Who the company is. `country`: two letters; `region`: a part of it, as public holidays are kept."""

    name: str
    time_zone: str
    currency: str
    address: str = ""
    phone: str = ""
    email: str = ""
    tax_number: str = ""
    country: str = ""
    region: str = ""

"""All money: prices, labour and travel, discounts, tax, totals, and whether a price is right.

Amounts are whole numbers of the currency's smallest unit; only quantities and rates are decimals.
"""

from core.pricing.helper import Figures, Known, Likely, Wanted, figures, likely, replanned, repriced, scaled, to_reach
from core.pricing.items import Item, ItemKind
from core.pricing.lines import Discount, Line
from core.pricing.money import amount_of, digits_of, exact_quantity, plain_text, rounded, share
from core.pricing.prices import Holder, PriceBook, PriceFound, PriceRow, Raise, Raised, ended, last_day, raised
from core.pricing.rates import (
    Band,
    Billing,
    Surcharge,
    Surcharged,
    TravelRule,
    TravelWay,
    bands,
    labour_price,
    surcharged,
    travel_price,
)
from core.pricing.tags import ByTag, TagSum, by_tag
from core.pricing.tax import Category, Exemption, Rate, TaxCode, Taxed, taxed
from core.pricing.totals import (
    Document,
    DocumentCharge,
    TaxSum,
    Totals,
    WithTax,
    discount_given,
    read_with_tax,
    totals,
    with_tax,
)
from core.pricing.units import UNITS, many

__all__ = [
    "UNITS",
    "Band",
    "Billing",
    "ByTag",
    "Category",
    "Discount",
    "Document",
    "DocumentCharge",
    "Exemption",
    "Figures",
    "Holder",
    "Item",
    "ItemKind",
    "Known",
    "Likely",
    "Line",
    "PriceBook",
    "PriceFound",
    "PriceRow",
    "Raise",
    "Raised",
    "Rate",
    "Surcharge",
    "Surcharged",
    "TagSum",
    "TaxCode",
    "TaxSum",
    "Taxed",
    "Totals",
    "TravelRule",
    "TravelWay",
    "Wanted",
    "WithTax",
    "amount_of",
    "bands",
    "by_tag",
    "digits_of",
    "discount_given",
    "ended",
    "exact_quantity",
    "figures",
    "labour_price",
    "last_day",
    "likely",
    "many",
    "plain_text",
    "raised",
    "read_with_tax",
    "replanned",
    "repriced",
    "rounded",
    "scaled",
    "share",
    "surcharged",
    "taxed",
    "to_reach",
    "totals",
    "travel_price",
    "with_tax",
]

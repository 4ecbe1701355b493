"""Writes: tax codes, the price list, lists of prices, discounts, and how work is charged."""

from apps.pricing.commands.charging import give_discounts, problem_of, put_charging, put_discount
from apps.pricing.commands.items import put_item
from apps.pricing.commands.lists import change_list, end_price, put_list, raise_list, set_price, set_terms
from apps.pricing.commands.taxes import put_tax_code

__all__ = [
    "change_list",
    "end_price",
    "give_discounts",
    "problem_of",
    "put_charging",
    "put_discount",
    "put_item",
    "put_list",
    "put_tax_code",
    "raise_list",
    "set_price",
    "set_terms",
]

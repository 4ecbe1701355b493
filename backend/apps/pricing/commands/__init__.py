"""Writes: tax codes, the price list, and lists of prices."""

from apps.pricing.commands.items import put_item
from apps.pricing.commands.lists import change_list, end_price, put_list, raise_list, set_price, set_terms
from apps.pricing.commands.taxes import put_tax_code

__all__ = ["change_list", "end_price", "put_item", "put_list", "put_tax_code", "raise_list", "set_price", "set_terms"]

"""Changing customers."""

from apps.customers.commands.areas import merge_area
from apps.customers.commands.assets import add_asset, change_asset
from apps.customers.commands.merging import merge, undo_merge
from apps.customers.commands.records import add_customer, change_customer, put_contact, remove_contact
from apps.customers.commands.sites import add_site, change_site, find_areas

__all__ = [
    "add_asset",
    "add_customer",
    "add_site",
    "change_asset",
    "change_customer",
    "change_site",
    "find_areas",
    "merge",
    "merge_area",
    "put_contact",
    "remove_contact",
    "undo_merge",
]

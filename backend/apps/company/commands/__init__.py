"""Setting up the company."""

from apps.company.commands.areas import draw_area, join_areas, put_area_back, put_areas, remove_area
from apps.company.commands.company import (
    change_record_fields,
    change_settings,
    found_company,
    merge_record_field,
)
from apps.company.commands.depots import add_depot, change_depot, locked_depot, retire_depot, tell_of_depot
from apps.company.commands.facts import change_company, hold_zone, put_logo, remove_logo
from apps.company.commands.holidays import add_holiday, remove_holiday, take_public_holidays

__all__ = [
    "add_depot",
    "add_holiday",
    "change_company",
    "change_depot",
    "change_record_fields",
    "change_settings",
    "draw_area",
    "found_company",
    "hold_zone",
    "join_areas",
    "locked_depot",
    "merge_record_field",
    "put_area_back",
    "put_areas",
    "put_logo",
    "remove_area",
    "remove_holiday",
    "remove_logo",
    "retire_depot",
    "take_public_holidays",
    "tell_of_depot",
]

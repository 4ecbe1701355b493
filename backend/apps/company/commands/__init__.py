"""Setting up the company."""

from apps.company.commands.areas import draw_area, put_area_back, put_areas, remove_area
from apps.company.commands.company import change_record_fields, change_settings, found_company
from apps.company.commands.depots import add_depot, change_depot
from apps.company.commands.holidays import add_holiday, remove_holiday

__all__ = [
    "add_depot",
    "add_holiday",
    "change_depot",
    "change_record_fields",
    "change_settings",
    "draw_area",
    "found_company",
    "put_area_back",
    "put_areas",
    "remove_area",
    "remove_holiday",
]

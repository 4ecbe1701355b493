// The files a company is set up from, in the order in which they build on each other.

import type { SchemaSetUpRowOut } from '@/api/types';

export type SetUpKind =
  | 'depots'
  | 'skills'
  | 'vehicles'
  | 'people'
  | 'shifts'
  | 'tax-codes'
  | 'items'
  | 'list-prices'
  | 'discounts'
  | 'rates'
  | 'surcharges'
  | 'suppliers'
  | 'parts'
  | 'levels';

export const KINDS: { kind: SetUpKind; words: string; columns: string; hint: string }[] = [
  {
    kind: 'depots',
    words: 'Depots',
    columns: 'name, address, lon, lat',
    hint: 'Without lon and lat the address is looked for on the map.',
  },
  { kind: 'skills', words: 'Skills', columns: 'name', hint: '' },
  {
    kind: 'vehicles',
    words: 'Vehicles',
    columns: 'name, plate, depot, inspection_due, cost_per_km',
    hint: '',
  },
  {
    kind: 'people',
    words: 'People',
    columns:
      'name, phone, email, depot, areas, skills, employed_from, employed_until, vehicle, home, home_lon, home_lat, starts_at_home, ends_at_home, cost_per_hour',
    hint: 'Skills with their levels, like “Door drives 3, Rescue 1”.',
  },
  {
    kind: 'shifts',
    words: 'Shifts',
    columns:
      'technician, from_day, week, days, start, end, gap_start, gap_end, on_call_until, break_minutes, break_earliest, break_latest, overtime_minutes',
    hint: 'Days like “Mon-Fri” or “Sat”. Without a day they hold from today on; weeks in turn are numbered from 1. A line without an end is a day on call only.',
  },
  {
    kind: 'tax-codes',
    words: 'Tax codes',
    columns: 'name, category, percent, from_day, reason',
    hint: 'A line for each rate; a name that comes twice has two rates.',
  },
  {
    kind: 'items',
    words: 'Price list',
    columns: 'kind, wording, unit, price, cost, labour_hours, tax, retired',
    hint: 'Prices without tax. Bring in tax codes first.',
  },
  {
    kind: 'list-prices',
    words: 'Customers’ lists',
    columns: 'list, item, price, from_day, least',
    hint: 'A line for each price; a list that is not there yet is made. Without a day a price holds from today on.',
  },
  {
    kind: 'discounts',
    words: 'Discounts',
    columns: 'name, percent, amount, until_day, times',
    hint: 'Percent or an amount, not both.',
  },
  {
    kind: 'rates',
    words: 'Hourly rates',
    columns: 'skill, item',
    hint: 'Which hour of the price list is charged; a line without a skill is the usual one.',
  },
  {
    kind: 'surcharges',
    words: 'Surcharges',
    columns: 'name, percent, mon, tue, wed, thu, fri, sat, sun, holidays',
    hint: 'Hours like “18:00-22:00” for each day; several between commas.',
  },
  {
    kind: 'suppliers',
    words: 'Suppliers',
    columns: 'name, email, phone, days, our_number, note, retired',
    hint: 'Days from ordering to having it.',
  },
  {
    kind: 'parts',
    words: 'Parts',
    columns:
      'name, number, unit, supplier, supplier_number, cost, item, gtin, tracking, hazardous, oversized, fits, warranty_months, retired',
    hint: 'A part is known by its number, else by its name. Bring in suppliers and the price list first.',
  },
  {
    kind: 'levels',
    words: 'Stock levels',
    columns: 'place, part, shelf, least, target, quantity',
    hint: 'A place is a depot or a vehicle. A quantity is what was counted there; without one it stays as it is.',
  },
];

/** What needs somebody first, then by line. */
export const refusedFirst = (rows: SchemaSetUpRowOut[]): SchemaSetUpRowOut[] =>
  [...rows].sort(
    (one, other) =>
      Number(other.becomes === 'refused') - Number(one.becomes === 'refused') || one.line - other.line,
  );

// Travel and work made from stamps, as the office computes them (core/reports/times.py). Both are held to the same
// answers by tests/core/reports/times.json.

import type { SchemaPresenceOut, SchemaVisitEntriesOut } from '@/api/types';

export type Sort = 'travel' | 'work';
export const SORTS: readonly Sort[] = ['travel', 'work'];
export type Stamps = Pick<SchemaPresenceOut, 'departed' | 'arrived' | 'finished' | 'held'>;

/** Whole minutes of travel, or of work without what was on hold; null: nothing can be made of the stamps (yet). */
export function minutesOf({ departed, arrived, finished, held }: Stamps, sort: Sort): number | null {
  const [begins, ends] = sort === 'travel' ? [departed, arrived] : [arrived, finished];
  if (begins === null || ends === null) return null;
  const away = ({ since, until }: Stamps['held'][number]) =>
    Math.max(0, Math.min(ends, until ?? ends) - Math.max(begins, since));
  const held_ = sort === 'work' ? held.reduce((sum, stretch) => sum + away(stretch), 0) : 0;
  return Math.floor((Math.max(0, Math.max(0, ends - begins) - held_) + 30) / 60);
}

/** What counts of somebody's time: what was said of it, else what the stamps tell. */
export function countedTime(
  { times }: Pick<SchemaVisitEntriesOut, 'times'>,
  presence: SchemaPresenceOut,
  sort: Sort,
) {
  const said = times.find((row) => row.technician_id === presence.technician_id && row.sort === sort);
  const stamped = minutesOf(presence, sort);
  return { said, stamped, minutes: said?.minutes ?? stamped };
}

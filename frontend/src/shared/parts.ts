import type { SchemaAssignmentOut } from '@/api/types';
import { clockTime } from '@/shared/time';

/** How far one of those who go to a visit is. */
export function partWords(row: SchemaAssignmentOut): string {
  if (row.finished_at !== null) return `left ${clockTime(row.finished_at)}`;
  if (row.arrived_at !== null) return `there since ${clockTime(row.arrived_at)}`;
  if (row.departed_at !== null) return `on the way since ${clockTime(row.departed_at)}`;
  return row.accepted_at === null ? 'has not accepted' : 'accepted';
}

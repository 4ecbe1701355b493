import type { SchemaLaneHeadOut } from '@/api/types';

/** So many days of technicians are fetched at once: a board of a week comes in parts. */
const CHUNK = 160;
/** The first part is what a screen shows without scrolling: it is there soonest. */
const FIRST_LANES = 14;

/** Ids of technicians in the parts in which their days are fetched. */
export function inChunks(people: SchemaLaneHeadOut[], span: number): number[][] {
  const size = Math.max(8, Math.floor(CHUNK / span));
  const ids = people.map((row) => row.technician_id);
  const chunks: number[][] = [];
  let next = Math.min(size, FIRST_LANES);
  for (let from = 0; from < ids.length; from = next, next += size) chunks.push(ids.slice(from, next));
  return chunks;
}

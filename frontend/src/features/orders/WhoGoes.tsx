import type { SchemaAssignmentOut, SchemaVisitDetailOut, SchemaVisitState } from '@/api/types';
import { clockTime } from '@/shared/time';

/** Who goes to a visit for several, and how far each of them is. */
export function WhoGoes({ visit }: { visit: SchemaVisitDetailOut }) {
  if (visit.assignments.length < 2) return null;
  return (
    <ul aria-label="Who goes">
      {visit.assignments.map((row) => (
        <li key={row.technician_id} className="flex justify-between gap-2">
          <span>
            {row.name}
            {row.leads && <span className="text-ink-soft"> leads</span>}
          </span>
          <span className="text-ink-soft">{partWords(row, visit.state)}</span>
        </li>
      ))}
    </ul>
  );
}

/** Of a visit that is only placed nobody was told. */
function partWords(row: SchemaAssignmentOut, state: SchemaVisitState): string {
  if (row.finished_at !== null) return `left ${clockTime(row.finished_at)}`;
  if (row.arrived_at !== null) return `there since ${clockTime(row.arrived_at)}`;
  if (row.departed_at !== null) return `on the way since ${clockTime(row.departed_at)}`;
  if (state === 'placed') return 'not told yet';
  return row.accepted_at === null ? 'has not accepted' : 'accepted';
}

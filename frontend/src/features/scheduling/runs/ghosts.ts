// A proposal as it is drawn on the board and on the map, until it is accepted or put away.

import type { SchemaBoardVisitOut, SchemaChangeProposedOut, SchemaRunDetailOut } from '@/api/types';

const UNKNOWN_LENGTH = 3600;

/** Where a visit would stand. */
export interface Ghost {
  visitId: number;
  start: number;
  end: number;
  words: string;
}

export interface Ghosts {
  /** By technician. */
  to: Map<number, Ghost[]>;
  /** Visits that would leave their place. */
  leaving: ReadonlySet<number>;
  changes: SchemaChangeProposedOut[];
}

/** What a proposal would change, without what was unticked; null when there is nothing to be drawn. */
export function ghostsOf(run: SchemaRunDetailOut | undefined, left: ReadonlySet<number>): Ghosts | null {
  if (!run?.proposal || run.accepted_at !== null) return null;
  const changes = run.proposal.changes.filter((change) => !left.has(change.visit_id));
  if (changes.length === 0) return null;
  const to = new Map<number, Ghost[]>();
  for (const change of changes)
    for (const place of change.after) {
      const end = place.start + (change.seconds ?? UNKNOWN_LENGTH);
      const ghost = { visitId: change.visit_id, start: place.start, end, words: change.site };
      to.set(place.technician_id, [...(to.get(place.technician_id) ?? []), ghost]);
    }
  const leaving = new Set(changes.filter((change) => change.before.length > 0).map((row) => row.visit_id));
  return { to, leaving, changes };
}

export interface Tour {
  technicianId: number;
  before: [number, number][];
  after: [number, number][];
}

/** The order of places of everybody whose day would change, as it is and as it would be. */
export function toursOf(
  { changes }: Ghosts,
  visitsOf: Map<number, SchemaBoardVisitOut[]>,
  within: { start: number; end: number },
): Tour[] {
  const touched = new Set(
    changes.flatMap((row) => [...row.before, ...row.after].map((place) => place.technician_id)),
  );
  const changed = new Map(changes.map((row) => [row.visit_id, row]));
  const isWithin = (start: number | null) => start !== null && start >= within.start && start < within.end;
  return [...touched].map((technicianId) => {
    const standing = (visitsOf.get(technicianId) ?? []).filter((visit) => isWithin(visit.start));
    const arriving = changes.flatMap((row) =>
      row.after
        .filter((place) => place.technician_id === technicianId && isWithin(place.start))
        .flatMap((place) =>
          row.lon != null && row.lat != null ? [{ start: place.start, lon: row.lon, lat: row.lat }] : [],
        ),
    );
    const staying = standing.filter((visit) => !changed.has(visit.id));
    const after = [...staying.map(({ start, lon, lat }) => ({ start: start!, lon, lat })), ...arriving];
    return { technicianId, before: standing.map(pointOf), after: after.sort(byStart).map(pointOf) };
  });
}

const byStart = (a: { start: number }, b: { start: number }) => a.start - b.start;
const pointOf = ({ lon, lat }: { lon: number; lat: number }): [number, number] => [lon, lat];

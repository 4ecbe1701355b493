// One after the other: whoever works fast must not overtake their own last change.
export const SCOPE = { id: 'schedule' };

/** Versions that one's own changes led to, before the screen has been told. */
const ownVersions = new Map<number, number>();

export function versionOf(visit: { id: number; version: number }): number {
  return Math.max(visit.version, ownVersions.get(visit.id) ?? 0);
}

export function remember<Visit extends { id: number; version: number }>(visit: Visit): Visit {
  ownVersions.set(visit.id, visit.version);
  return visit;
}

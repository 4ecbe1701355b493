// How far a role of the company's own reaches, in words.

import type { SchemaAction, SchemaDeedOut } from '@/api/types';

interface Named {
  id: number;
  name: string;
}

/** What is ticked with all it brings along, and what was brought along only. */
export function withNeeds(ticked: readonly SchemaAction[], deeds: readonly SchemaDeedOut[]) {
  const brought = new Set(
    deeds.filter((deed) => ticked.includes(deed.action)).flatMap((deed) => deed.brings),
  );
  return { all: new Set([...ticked, ...brought]), brought };
}

/** "everywhere", or where work may be changed and whose technicians may be planned. */
export function reachOf(
  role: { area_ids: readonly number[]; depot_ids: readonly number[] },
  company: { areas: readonly Named[]; depots: readonly Named[] },
): string {
  const areas = company.areas.filter((row) => role.area_ids.includes(row.id)).map((row) => row.name);
  const depots = company.depots.filter((row) => role.depot_ids.includes(row.id)).map((row) => row.name);
  const said = [
    areas.length > 0 && `changes work in ${areas.join(', ')} only`,
    depots.length > 0 && `plans technicians of ${depots.join(', ')} only`,
  ].filter(Boolean);
  return said.length > 0 ? said.join(', ') : 'everywhere';
}

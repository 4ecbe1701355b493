// Which lanes in which order, under which headings.

import type { Slot } from './lanes/interaction';
import { load, type BoardVisit, type Lane } from './model';

export const GROUPINGS = ['none', 'depot', 'area', 'crew'] as const;
export type Grouping = (typeof GROUPINGS)[number];
export const SORTINGS = ['name', 'free', 'driving', 'near'] as const;
export type Sorting = (typeof SORTINGS)[number];
export const GROUPING_WORDS: Record<Grouping, string> = {
  none: 'Together',
  depot: 'By depot',
  area: 'By area',
  crew: 'By crew',
};
export const SORTING_WORDS: Record<Sorting, string> = {
  name: 'Name',
  free: 'Most free time',
  driving: 'Most driving',
  near: 'Nearest to the selected visit',
};

/** A standing crew with the lanes of those who are in it, whoever leads it first. */
export interface ShownCrew {
  id: number;
  name: string;
  members: Lane[];
}

export type Row =
  | { kind: 'group'; key: string; title: string }
  | { kind: 'crew'; key: string; crew: ShownCrew }
  | { kind: 'lane'; key: string; lane: Lane };

interface Crew {
  id: number;
  name: string;
  members: number[];
}

interface Point {
  lon: number;
  lat: number;
}

/** Lanes under their headings. Somebody who works in two areas stands under both. */
export function rowsOf(
  lanes: Lane[],
  visitsOf: Map<number, BoardVisit[]>,
  {
    group,
    sort,
    near,
    crews = [],
  }: { group: Grouping; sort: Sorting; near: Point | null; crews?: readonly Crew[] },
): Row[] {
  const sorted = sortedBy(lanes, visitsOf, sort, near);
  if (group === 'crew') return crewRows(sorted, crews);
  if (group === 'none') return sorted.map((lane) => laneRow(lane, ''));
  const groups = new Map<string, Lane[]>();
  for (const lane of sorted) {
    const names = group === 'depot' ? [lane.depot] : lane.areas.length ? lane.areas : ['every area'];
    for (const name of names) groups.set(name, [...(groups.get(name) ?? []), lane]);
  }
  return [...groups.keys()].sort().flatMap((name) => {
    const own = groups.get(name)!;
    return [
      { kind: 'group', key: `group ${name}`, title: `${name} · ${own.length}` } as Row,
      ...own.map((lane) => laneRow(lane, name)),
    ];
  });
}

/** Each crew as a line of its own with its members below; then those who are in none. */
function crewRows(lanes: Lane[], crews: readonly Crew[]): Row[] {
  const known = new Map(lanes.map((lane) => [lane.technician_id, lane]));
  const inOne = new Set<number>();
  const rows = crews.flatMap((crew): Row[] => {
    const members = crew.members.flatMap((id) => known.get(id) ?? []);
    if (members.length < 2) return [];
    const shown = { id: crew.id, name: crew.name, members };
    for (const lane of members) inOne.add(lane.technician_id);
    return [
      { kind: 'crew', key: `crew ${crew.id}`, crew: shown },
      ...members.map((lane) => laneRow(lane, `crew ${crew.id}`)),
    ];
  });
  const others = lanes.filter((lane) => !inOne.has(lane.technician_id));
  const title = `In no crew · ${others.length}`;
  return others.length === 0
    ? rows
    : [...rows, { kind: 'group', key: 'group none', title }, ...others.map((lane) => laneRow(lane, ''))];
}

/** Whose lines there are to place on, in the order shown; a crew's line stands for all of its members. */
export function slotsOf(rows: Row[]): Slot[] {
  return rows.flatMap((row) => {
    if (row.kind === 'group') return [];
    if (row.kind === 'lane') return [{ technicianId: row.lane.technician_id }];
    const [lead, ...mates] = row.crew.members.map((lane) => lane.technician_id);
    return [{ technicianId: lead!, mates }];
  });
}

const laneRow = (lane: Lane, group: string): Row => ({
  kind: 'lane',
  key: `${group} ${lane.technician_id}`,
  lane,
});

function sortedBy(
  lanes: Lane[],
  visitsOf: Map<number, BoardVisit[]>,
  sort: Sorting,
  near: Point | null,
): Lane[] {
  if (sort === 'name') return lanes;
  const worth = (lane: Lane): number => {
    if (sort === 'near') return near ? nearest(visitsOf.get(lane.technician_id) ?? [], near) : 0;
    const full = load(lane);
    if (!full) return Infinity;
    return sort === 'free' ? -full.free : -full.driving;
  };
  const worths = new Map(lanes.map((lane) => [lane, worth(lane)]));
  return [...lanes].sort((a, b) => worths.get(a)! - worths.get(b)!);
}

/** As the crow flies, in degrees made square: enough to put lanes in an order. */
function nearest(visits: BoardVisit[], { lon, lat }: Point): number {
  const squeeze = Math.cos((lat * Math.PI) / 180);
  return Math.min(
    Infinity,
    ...visits.map((visit) => Math.hypot((visit.lon - lon) * squeeze, visit.lat - lat)),
  );
}

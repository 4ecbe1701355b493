// Which lanes in which order, under which headings.

import { load, type BoardVisit, type Lane } from './model';

export const GROUPINGS = ['none', 'depot', 'area'] as const;
export type Grouping = (typeof GROUPINGS)[number];
export const SORTINGS = ['name', 'free', 'driving', 'near'] as const;
export type Sorting = (typeof SORTINGS)[number];
export const GROUPING_WORDS: Record<Grouping, string> = {
  none: 'Together',
  depot: 'By depot',
  area: 'By area',
};
export const SORTING_WORDS: Record<Sorting, string> = {
  name: 'Name',
  free: 'Most free time',
  driving: 'Most driving',
  near: 'Nearest to the selected visit',
};

export type Row = { kind: 'group'; key: string; title: string } | { kind: 'lane'; key: string; lane: Lane };

interface Point {
  lon: number;
  lat: number;
}

/** Lanes under their headings. Somebody who works in two areas stands under both. */
export function rowsOf(
  lanes: Lane[],
  visitsOf: Map<number, BoardVisit[]>,
  { group, sort, near }: { group: Grouping; sort: Sorting; near: Point | null },
): Row[] {
  const sorted = sortedBy(lanes, visitsOf, sort, near);
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

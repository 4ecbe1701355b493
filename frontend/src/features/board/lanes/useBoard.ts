import { useQueries, useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import type { SchemaBoardOut, SchemaLaneHeadOut } from '@/api/types';
import { serverNow } from '@/shared/clock';
import { addDays, moment } from '@/shared/time';
import type { Board, BoardVisit, Finding, Lane } from '../model';
import { chunkQuery, headsQuery } from '../queries';
import { inChunks } from './chunks';

const NO_HEADS: SchemaLaneHeadOut[] = [];

export interface BoardState {
  board: Board | null;
  /** Something shown is not of these days yet, or parts are still coming. */
  stale: boolean;
  error: unknown;
  retry: () => void;
}

/** The days of everybody, put together from parts. While new days are fetched, the old ones stay. */
export function useBoard(day: string, span: number): BoardState {
  const heads = useQuery(headsQuery);
  const people = heads.data ?? NO_HEADS;
  const groups = useMemo(() => inChunks(people, span), [people, span]);
  // One after the other: the first part is on screen while the others are on their way.
  const [arrived, setArrived] = useState(0);
  const parts = useQueries({
    queries: groups.map((ids, index) => ({ ...chunkQuery(day, span, ids), enabled: index <= arrived })),
    combine: together,
  });
  const there = parts.chunks.findIndex((chunk) => chunk === undefined);
  const complete = there < 0 ? groups.length : there;
  if (complete !== arrived) setArrived(complete);
  // A company without technicians has a board too: nothing of it is ever on its way.
  const empty = heads.data?.length === 0;
  const found = useMemo(
    () => (empty || parts.chunks.some(Boolean) ? assemble(day, span, people, parts.chunks) : null),
    [empty, day, span, people, parts],
  );
  const [last, setLast] = useState<Board | null>(null);
  if (found && found !== last) setLast(found);
  return {
    board: found ?? last,
    stale: parts.pending,
    error: heads.error ?? (found ? null : parts.error),
    retry: () => {
      void heads.refetch();
      parts.retry();
    },
  };
}

type Chunk = SchemaBoardOut | undefined;
interface Parts {
  chunks: Chunk[];
  pending: boolean;
  error: unknown;
  retry: () => void;
}

function together(
  results: { data: Chunk; isPending: boolean; error: unknown; refetch: () => unknown }[],
): Parts {
  return {
    chunks: results.map((result) => result.data),
    pending: results.some((result) => result.isPending),
    error: results.find((result) => result.error)?.error ?? null,
    retry: () => results.forEach((result) => void result.refetch()),
  };
}

function assemble(day: string, span: number, people: SchemaLaneHeadOut[], chunks: Chunk[]): Board {
  const lanes = new Map<number, Lane['days']>();
  const visits = new Map<number, BoardVisit>();
  const findings = new Map<string, Finding>();
  for (const chunk of chunks) {
    chunk?.lanes.forEach((lane) => lanes.set(lane.technician_id, lane.days));
    // A crew of two parts of the board is in both.
    chunk?.visits.forEach((visit) => visits.set(visit.id, visit));
    chunk?.findings.forEach((finding) => findings.set(finding.key, finding));
  }
  const days = Array.from({ length: span }, (_, index) => {
    const name = addDays(day, index);
    return { day: name, start: moment(name, 0), end: moment(addDays(name, 1), 0) };
  });
  return {
    day,
    days,
    start: days[0]!.start,
    end: days.at(-1)!.end,
    now: chunks.length ? Math.max(...chunks.map((chunk) => chunk?.now ?? 0)) : serverNow(),
    lanes: people.map((head) => laneOf(head, lanes.get(head.technician_id) ?? NO_DAYS)),
    visits: [...visits.values()],
    findings: [...findings.values()],
    chunks: chunks.filter((chunk) => chunk !== undefined),
  };
}

const NO_DAYS: Lane['days'] = [];
const made = new WeakMap<Lane['days'], Lane>();

/** The same lane as long as its head and days are the same: what did not change is not drawn anew. */
function laneOf(head: SchemaLaneHeadOut, days: Lane['days']): Lane {
  if (days === NO_DAYS) return { ...head, days };
  const kept = made.get(days);
  if (kept?.name === head.name && kept.certificates === head.certificates) return kept;
  const lane = { ...head, days };
  made.set(days, lane);
  return lane;
}

/** The visits on each technician's days, by their start; a crew's visit stands with everybody who goes. */
export function visitsByTechnician(board: Board): Map<number, BoardVisit[]> {
  const map = new Map<number, BoardVisit[]>();
  for (const chunk of board.chunks) for (const [key, list] of sortedOut(chunk)) map.set(key, list);
  return map;
}

const known = new WeakMap<SchemaBoardOut, Map<number, BoardVisit[]>>();

/** Kept with the part it was made from: what did not change is not drawn anew. */
function sortedOut(chunk: SchemaBoardOut): Map<number, BoardVisit[]> {
  const kept = known.get(chunk);
  if (kept) return kept;
  const map = new Map<number, BoardVisit[]>(chunk.lanes.map((lane) => [lane.technician_id, []]));
  for (const visit of chunk.visits)
    for (const hand of [visit.technician_id!, ...visit.mates]) map.get(hand)?.push(visit);
  for (const list of map.values()) list.sort((a, b) => a.start! - b.start!);
  known.set(chunk, map);
  return map;
}

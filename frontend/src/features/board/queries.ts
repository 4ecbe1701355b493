import {
  keepPreviousData,
  queryOptions,
  useQuery,
  useQueryClient,
  type QueryClient,
} from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { refreshSchedule, scheduleKey, schedulingKeys, visitKey } from '@/features/scheduling';
import { stockKey } from '@/features/stock';
import { api, data } from '@/api/client';
import type { SchemaBacklogIn, SchemaOpeningsOut } from '@/api/types';
import { onChange } from '@/shared/live';
import type { Place, Slot } from './lanes/interaction';
import type { BoardSearch, WaitingSearch } from './search';
import { serverNow, setServerNow } from '@/shared/clock';
import { isoDay } from '@/shared/time';
import { inChunks } from './lanes/chunks';

export const keys = {
  board: [...scheduleKey, 'board'] as const,
  backlog: [...scheduleKey, 'backlog'] as const,
  visit: visitKey,
  crews: ['crews'] as const,
};

/** Heads of all lines; who they are changes seldom. */
export const headsQuery = queryOptions({
  queryKey: ['lanes'],
  queryFn: () => data(api.GET('/api/v1/board/lanes')),
  staleTime: 5 * 60_000,
});

/** What the board asks first, while the page is still being put up: who there is, */
export const fetchHeads = (client: QueryClient) => void client.prefetchQuery(headsQuery);

/** and what the first of them do. */
export async function fetchFirst(client: QueryClient, { day, span }: BoardSearch) {
  const people = await client.fetchQuery(headsQuery);
  const [first] = inChunks(people, span ?? 1);
  if (first) void client.prefetchQuery(chunkQuery(day ?? isoDay(serverNow()), span ?? 1, first));
}

/** Standing crews. */
export const crewsQuery = queryOptions({
  queryKey: keys.crews,
  queryFn: () => data(api.GET('/api/v1/people/crews')),
  staleTime: 5 * 60_000,
});

/** Who went to visits together lately. */
export const togetherQuery = queryOptions({
  queryKey: [...keys.crews, 'often'],
  queryFn: () => data(api.GET('/api/v1/board/crews/often')),
});

/** A day's drives, street by street. */
export const directionsQuery = (who: number, day: string) =>
  queryOptions({
    queryKey: [...scheduleKey, 'directions', who, day],
    queryFn: () =>
      data(api.GET('/api/v1/board/directions', { params: { query: { technician_id: who, day } } })),
  });

/** What sending would write: of days (of everybody or one technician), or of one visit. */
export const previewQuery = (what: { day: string; days: number; who?: number } | { visit: number }) =>
  queryOptions({
    queryKey: [...scheduleKey, 'preview', what],
    queryFn: () =>
      'visit' in what
        ? data(api.GET('/api/v1/messages/preview/{visit_id}', { params: { path: { visit_id: what.visit } } }))
        : data(
            api.GET('/api/v1/messages/preview', {
              params: { query: { day: what.day, days: what.days, technician_id: what.who } },
            }),
          ),
  });

/** Days of some technicians. */
export const chunkQuery = (day: string, days: number, ids: number[]) =>
  queryOptions({
    queryKey: [...keys.board, day, days, ids.join(',')],
    queryFn: async ({ signal }) => {
      const chunk = await data(
        api.GET('/api/v1/board', {
          params: { query: { day, days, technicians: ids.join(',') } },
          signal,
        }),
      );
      setServerNow(chunk.now);
      return chunk;
    },
    // The lamps follow the clock even when nothing happens.
    refetchInterval: 60_000,
    staleTime: 30_000,
  });

export const backlogQuery = (text: string, waiting: WaitingSearch = {}) => {
  // The reason is looked for among what was fetched: its counts are shown for all of them.
  const filters = { ...waiting };
  delete filters.reason;
  return queryOptions({
    queryKey: [...keys.backlog, text, filters],
    queryFn: () =>
      data(
        api.POST('/api/v1/board/backlog', {
          body: { text, skill: '', tag: '', sort: 'pressing', ...filters } as SchemaBacklogIn,
        }),
      ),
    placeholderData: keepPreviousData,
  });
};

export const visitQuery = (id: number) =>
  queryOptions({
    queryKey: [...keys.visit, id],
    queryFn: () => data(api.GET('/api/v1/visits/{visit_id}', { params: { path: { visit_id: id } } })),
  });

/** One's own last changes that can be undone, newest first, and those that can be done again. */
/** What speaks against a visit for each technician, whatever the hour. */
export function useFits(visitId: number | null, day: string) {
  return useQuery({
    queryKey: [...scheduleKey, 'fits', visitId, day],
    enabled: visitId !== null,
    queryFn: () =>
      data(
        api.GET('/api/v1/visits/{visit_id}/fits', {
          params: { path: { visit_id: visitId! }, query: { day } },
        }),
      ),
    select: (rows) => new Map(rows.map((row) => [row.technician_id, row.reasons])),
  });
}

/** What fits into a stretch of somebody's day. */
export const gapQuery = (gap: { who: number; start: number; end: number; but?: number }) =>
  queryOptions({
    queryKey: [...scheduleKey, 'gap', gap.who, gap.start, gap.end],
    queryFn: () =>
      data(
        api.GET('/api/v1/board/gap', {
          params: { query: { technician_id: gap.who, start: gap.start, end: gap.end, but: gap.but } },
        }),
      ),
  });

/** What could come next after a visit. */
export const nextQuery = (visitId: number) =>
  queryOptions({
    queryKey: [...scheduleKey, 'next', visitId],
    queryFn: () =>
      data(api.GET('/api/v1/visits/{visit_id}/next', { params: { path: { visit_id: visitId } } })),
  });

/** Why a visit stands where it stands. */
export const whyQuery = (visitId: number) =>
  queryOptions({
    queryKey: [...scheduleKey, 'why', visitId],
    queryFn: () =>
      data(api.GET('/api/v1/visits/{visit_id}/why', { params: { path: { visit_id: visitId } } })),
  });

/** The roads through the places of some tours. */
export const toursQuery = (tours: { at: number; points: [number, number][] }[]) =>
  queryOptions({
    queryKey: ['roads', 'tours', tours],
    queryFn: ({ signal }) => data(api.POST('/api/v1/roads/tours', { body: { tours }, signal })),
    staleTime: Infinity,
  });

/** How full days are, of some technicians. */
export const loadQuery = (day: string, days: number, ids: number[]) =>
  queryOptions({
    queryKey: [...scheduleKey, 'load', day, days, ids],
    queryFn: ({ signal }) =>
      data(
        api.GET('/api/v1/board/load', { params: { query: { day, days, technicians: ids.join() } }, signal }),
      ),
  });

/** A day's rounds along the roads, of some technicians. */
export const roundsQuery = (day: string, ids: number[]) =>
  queryOptions({
    queryKey: [...scheduleKey, 'rounds', day, ids],
    queryFn: ({ signal }) =>
      data(api.GET('/api/v1/board/rounds', { params: { query: { day, technicians: ids.join() } }, signal })),
    staleTime: 60_000,
  });

/** Who could be there first. */
export const respondersQuery = (visitId: number) =>
  queryOptions({
    queryKey: [...scheduleKey, 'responders', visitId],
    queryFn: () =>
      data(
        api.GET('/api/v1/visits/{visit_id}/responders', {
          params: { path: { visit_id: visitId } },
        }),
      ),
  });

/** What giving urgent work to somebody comes to. */
export const decisionQuery = (visitId: number, technicianId: number) =>
  queryOptions({
    queryKey: [...scheduleKey, 'decision', visitId, technicianId],
    queryFn: () =>
      data(
        api.GET('/api/v1/visits/{visit_id}/give', {
          params: { path: { visit_id: visitId }, query: { technician_id: technicianId } },
        }),
      ),
    staleTime: 0,
  });

/** Where a visit could go, from a day on. */
export function useOpenings(visitId: number, day: string, playbookId?: number) {
  return useQuery({
    queryKey: [...scheduleKey, 'openings', visitId, day, playbookId],
    queryFn: ({ signal }) =>
      data(
        api.GET('/api/v1/visits/{visit_id}/openings', {
          params: { path: { visit_id: visitId }, query: { day, days: 7, playbook_id: playbookId } },
          signal,
        }),
      ),
    retry: false,
  });
}

/** Places of the days shown where a visit fits without harm, by technician: marked while it is held. */
/** Where the held visit may go: starts by technician, and all places, the best first. */
export interface Marks {
  starts: Map<number, number[]>;
  places: Place[];
}

function markedBy({ openings }: SchemaOpeningsOut): Marks {
  const starts = new Map<number, number[]>();
  const places: Place[] = [];
  for (const { seats, start } of openings) {
    for (const seat of seats)
      starts.set(seat.technician_id, [...(starts.get(seat.technician_id) ?? []), start]);
    const [first, ...others] = seats.map((seat) => seat.technician_id);
    if (first !== undefined)
      places.push({ kind: 'lane', technicianId: first, start, ...(others.length && { mates: others }) });
  }
  return { starts, places };
}

export function useMarks(visitId: number | null, day: string, days: number) {
  return useQuery({
    queryKey: [...scheduleKey, 'marks', visitId, day, days],
    enabled: visitId !== null,
    queryFn: ({ signal }) =>
      data(
        api.GET('/api/v1/visits/{visit_id}/openings', {
          params: { path: { visit_id: visitId! }, query: { day, days } },
          signal,
        }),
      ),
    select: markedBy,
    retry: false,
    staleTime: 20_000,
  });
}

/** So many milliseconds over one place are a rest: a frame, in which a hand that moves on has moved on. */
const REST = 16;

/** The core's answer to "what if it stood there?". Asked once the aim rests for a moment. */
export function useVerdict(visitId: number | null, aim: (Slot & { start: number }) | null) {
  const key =
    visitId !== null && aim ? `${visitId} ${aim.technicianId} ${aim.start} ${aim.mates?.join() ?? ''}` : '';
  const settled = useSettled(key, REST);
  const asked = settled && aim && settled === key ? aim : null;
  const verdict = useQuery({
    queryKey: [...scheduleKey, 'judge', key],
    enabled: asked !== null,
    queryFn: ({ signal }) =>
      data(
        api.POST('/api/v1/scheduling/judge', {
          body: {
            visit_id: visitId!,
            technician_id: aim!.technicianId,
            start: aim!.start,
            mates: aim!.mates ?? null,
          },
          signal,
        }),
      ),
    staleTime: 5_000,
    gcTime: 10_000,
  });
  return { verdict: asked ? verdict.data : undefined, error: asked ? verdict.error : null };
}

function useSettled(value: string, milliseconds: number): string {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), milliseconds);
    return () => clearTimeout(timer);
  }, [value, milliseconds]);
  return settled;
}

/** Look again at whatever others have changed. Many changes at once are one look. */
export function useLiveSchedule() {
  const client = useQueryClient();
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const stop = onChange((change) => {
      if (['run', 'resync'].includes(change.topic))
        void client.invalidateQueries({ queryKey: schedulingKeys.runs });
      if (['technician', 'resync'].includes(change.topic)) {
        void client.invalidateQueries({ queryKey: headsQuery.queryKey });
        void client.invalidateQueries({ queryKey: keys.crews });
        void client.invalidateQueries({ queryKey: scheduleKey });
        void client.invalidateQueries({ queryKey: stockKey });
      }
      if (['playbook', 'resync'].includes(change.topic))
        void client.invalidateQueries({ queryKey: schedulingKeys.playbooks });
      if (!['visit', 'resync', 'request'].includes(change.topic)) return;
      clearTimeout(timer);
      // A change of our own in flight looks again by itself; an answer from before it would flicker.
      timer = setTimeout(() => client.isMutating() === 0 && refreshSchedule(client), 60);
    });
    return () => {
      clearTimeout(timer);
      stop();
    };
  }, [client]);
}

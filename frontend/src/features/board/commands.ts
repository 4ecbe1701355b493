import { useMutation, useQueryClient, type QueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { useKeyedParts } from '@/features/stock';
import { refreshSchedule, remember, SCOPE, useUndo, versionOf } from '@/features/scheduling';
import { complain } from '@/shared/complain';
import { api, data, Problem } from '@/api/client';
import type {
  SchemaBoardOut,
  SchemaBulkIn,
  SchemaMoveIn,
  SchemaPlacedOut,
  SchemaSendIn,
  SchemaStep,
  SchemaVisitFieldsIn,
} from '@/api/types';
import { clockTime, dayName, length } from '@/shared/time';
import { useCallback } from 'react';
import { ask, askLength, type Placement } from './asking';
import type { Grabbed } from './lanes/interaction';
import type { BacklogVisit, BoardVisit } from './model';
import { headsQuery, keys } from './queries';

export type How = NonNullable<SchemaSendIn['how']>;

interface After {
  onSuccess?: () => void;
}

interface Doing<Wanted> {
  mutate: (wanted: Wanted, after?: After) => void;
  isPending: boolean;
}

/** Nobody can plan a visit whose length is not known: that is asked first. */
function useMeasured<Wanted extends { visit: Grabbed }>({ mutate: go, isPending }: Doing<Wanted>) {
  const mutate = useCallback(
    (wanted: Wanted, after?: After) => {
      const { visit } = wanted;
      const then = () => go({ ...wanted, visit: { ...visit, unmeasured: false } }, after);
      if (visit.unmeasured) askLength({ visit, then });
      else go(wanted, after);
    },
    [go],
  );
  return { mutate, isPending };
}

/** Place or move a visit. The board shows it at once and takes it back if the server refuses, or asks for a reason. */
export function usePlace() {
  const client = useQueryClient();
  const undo = useUndo();
  return useMeasured(
    useMutation({
      scope: SCOPE,
      mutationFn: ({ visit, technicianId, start, mates, because }: Placement) =>
        data(
          api.POST('/api/v1/visits/{visit_id}/place', {
            params: { path: { visit_id: visit.id } },
            body: {
              version: versionOf(visit),
              technician_id: technicianId,
              start,
              mates: mates ?? null,
              because: because ?? '',
            },
          }),
        ),
      onMutate: async (placement) => {
        await client.cancelQueries({ queryKey: keys.board });
        return optimistic(client, placement.visit.id, placement);
      },
      onSuccess: (placed) => tellPlaced(client, placed, undo.mutate),
      onError: (error, placement, before) => {
        before?.();
        if (error instanceof Problem && error.code === 'reason_needed')
          ask({ placement, reasons: error.reasons });
        else complain(error);
      },
      onSettled: () => refreshSchedule(client),
    }),
  );
}

/** So many warnings fit a message that passes; the details have them all. */
const SAID = 3;

function tellPlaced(client: QueryClient, { visit, verdict }: SchemaPlacedOut, undo: () => void, more = '') {
  remember(visit);
  const warnings = verdict.reasons.filter((reason) => ['warns', 'asks'].includes(reason.weight));
  const name = nameOf(client, visit.technician_id);
  const what = `${visit.number} placed${more}: ${name}, ${dayName(visit.start!)} ${clockTime(visit.start!)}`;
  const rest = warnings.length - SAID;
  const said = warnings.slice(0, SAID).map((reason) => reason.sentence);
  const description = [...said, ...(rest > 0 ? [`and ${rest} more`] : [])].join(' · ') || undefined;
  const action = { label: 'Undo', onClick: undo };
  (warnings.length ? toast.warning : toast.success)(what, { description, action });
}

/** Dropped on a technician: the first time that fits on a day. */
export function usePlaceFirst() {
  const client = useQueryClient();
  const undo = useUndo();
  return useMeasured(
    useMutation({
      scope: SCOPE,
      mutationFn: ({ visit, technicianId, day }: { visit: Grabbed; technicianId: number; day: string }) =>
        data(
          api.POST('/api/v1/visits/{visit_id}/place-first', {
            params: { path: { visit_id: visit.id } },
            body: { version: versionOf(visit), technician_id: technicianId, day },
          }),
        ),
      onSuccess: (placed) => tellPlaced(client, placed, undo.mutate),
      onError: complain,
      onSettled: () => refreshSchedule(client),
    }),
  );
}

/** Dropped on a day: the best place of that day, whoever's it is. */
export function usePlaceBest() {
  const client = useQueryClient();
  const { mutate: place } = usePlace();
  return useMeasured(
    useMutation({
      mutationFn: ({ visit, day }: { visit: Grabbed; day: string }) =>
        data(
          api.GET('/api/v1/visits/{visit_id}/openings', {
            params: { path: { visit_id: visit.id }, query: { day, days: 1 } },
          }),
        ),
      onSuccess: ({ openings, excluded }, { visit }) => {
        const [best] = openings;
        if (!best) {
          const reasons = excluded.slice(0, 3).map((row) => `${row.technician}: ${row.reasons[0] ?? ''}`);
          toast.error('That day has no place for it.', { description: reasons.join(' · ') || undefined });
          return;
        }
        const [first, ...mates] = best.seats;
        place({
          visit,
          technicianId: first!.technician_id,
          start: best.start,
          mates: mates.map((seat) => seat.technician_id),
        });
      },
      onError: complain,
      onSettled: () => refreshSchedule(client),
    }),
  );
}

export function useStretch() {
  const client = useQueryClient();
  const undo = useUndo();
  return useMutation({
    scope: SCOPE,
    mutationFn: ({ visit, seconds }: { visit: Grabbed; seconds: number }) =>
      data(
        api.POST('/api/v1/visits/{visit_id}/length', {
          params: { path: { visit_id: visit.id } },
          body: { version: versionOf(visit), seconds },
        }),
      ),
    onSuccess: (visit, { seconds }) => {
      toast.success(`${remember(visit).number} now takes ${length(seconds)}`, {
        action: { label: 'Undo', onClick: () => undo.mutate() },
      });
    },
    onError: complain,
    onSettled: () => refreshSchedule(client),
  });
}

/** Urgent work to one technician at once: placed, and the phone says so. */
export function useGive() {
  const client = useQueryClient();
  const undo = useUndo();
  return useMutation({
    scope: SCOPE,
    mutationFn: ({ visit, ...body }: Given) =>
      data(
        api.POST('/api/v1/visits/{visit_id}/give', {
          params: { path: { visit_id: visit.id } },
          body: { version: versionOf(visit), ...body },
        }),
      ),
    onSuccess: (placed) => tellPlaced(client, placed, undo.mutate, ' and told'),
    onError: (error) => {
      // Asked for where it is given.
      if (!(error instanceof Problem && error.code === 'reason_needed')) complain(error);
    },
    onSettled: () => refreshSchedule(client),
  });
}

interface Given {
  visit: { id: number; version: number };
  technician_id: number;
  start: number;
  because: string;
  /** What gives way, decided with it. */
  moves: SchemaMoveIn[];
}

/** Somebody on the standby list comes forward: placed, and promised for then. */
export function useBringForward() {
  const client = useQueryClient();
  const undo = useUndo();
  return useMutation({
    scope: SCOPE,
    mutationFn: ({ visit, technicianId, start }: Omit<Placement, 'mates' | 'because'>) =>
      data(
        api.POST('/api/v1/visits/{visit_id}/forward', {
          params: { path: { visit_id: visit.id } },
          body: { version: versionOf(visit), technician_id: technicianId, start },
        }),
      ),
    onSuccess: (placed) => tellPlaced(client, placed, undo.mutate, ' earlier, the customer is told'),
    onError: complain,
    onSettled: () => refreshSchedule(client),
  });
}

/** The same to many visits, once it was looked at. */
export function useBulk() {
  const client = useQueryClient();
  const undo = useUndo();
  return useMutation({
    scope: SCOPE,
    mutationFn: (body: Omit<SchemaBulkIn, 'tell'> & { tell?: string }) =>
      data(api.POST('/api/v1/board/bulk', { body: { tell: '', ...body } })),
    onSuccess: ({ done, outcomes }, { kind }) => {
      const left = outcomes.length - done;
      const what = `${done} visit${done === 1 ? '' : 's'} changed${left ? `, ${left} left as they are` : ''}`;
      const action = kind === 'send' ? undefined : { label: 'Undo', onClick: () => undo.mutate() };
      toast.success(what, { action });
    },
    onError: complain,
    onSettled: () => refreshSchedule(client),
  });
}

export function useUnplace() {
  const client = useQueryClient();
  const undo = useUndo();
  return useMutation({
    scope: SCOPE,
    mutationFn: ({ visit }: { visit: Grabbed }) =>
      data(
        api.POST('/api/v1/visits/{visit_id}/unplace', {
          params: { path: { visit_id: visit.id } },
          body: { version: versionOf(visit) },
        }),
      ),
    onMutate: async ({ visit }) => {
      await client.cancelQueries({ queryKey: keys.board });
      return optimistic(client, visit.id, null);
    },
    onSuccess: (visit) =>
      toast.success(`${remember(visit).number} is back in the backlog`, {
        action: { label: 'Undo', onClick: () => undo.mutate() },
      }),
    onError: (error, _visit, before) => {
      before?.();
      complain(error);
    },
    onSettled: () => refreshSchedule(client),
  });
}

export function useSend() {
  const client = useQueryClient();
  return useMutation({
    scope: SCOPE,
    mutationFn: ({ visit, how }: { visit: { id: number; version: number }; how: How | null }) =>
      data(
        api.POST('/api/v1/visits/{visit_id}/send', {
          params: { path: { visit_id: visit.id } },
          body: { version: versionOf(visit), how },
        }),
      ),
    onSuccess: (visit, { how }) => toast.success(`${remember(visit).number} ${SENT_WORDS[how ?? 'changed']}`),
    onError: complain,
    onSettled: () => refreshSchedule(client),
  });
}

const SENT_WORDS: Record<How, string> = {
  changed: 'sent: technician and customer are told',
  keep: 'sent to the technician; the promise stays',
  ask: 'not sent: the customer is on the list of calls',
};

interface SendDay {
  day: string;
  days?: number;
  who?: number | undefined;
  /** What becomes of the promises of those that stand on another day. */
  settled?: { visit_id: number; how: How }[];
}

export function useSendDay() {
  const client = useQueryClient();
  return useMutation({
    scope: SCOPE,
    mutationFn: ({ day, days = 1, who, settled = [] }: SendDay) =>
      data(api.POST('/api/v1/board/send-day', { body: { day, days, technician_id: who ?? null, settled } })),
    onSuccess: ({ sent, asked, left }) => {
      const what = [
        sent === 1 ? '1 visit sent' : `${sent} visits sent`,
        ...(asked ? [`${asked} on the list of calls`] : []),
      ].join(', ');
      if (left) toast.warning(what, { description: `${left} left: on another day than promised` });
      else toast.success(what);
    },
    onError: complain,
    onSettled: () => refreshSchedule(client),
  });
}

/** Change a visit; `parts` are lines that were typed for what it takes, null: none were. */
export function useEdit(visit: { id: number }) {
  const client = useQueryClient();
  const undo = useUndo();
  const keyed = useKeyedParts();
  return useMutation({
    scope: SCOPE,
    mutationFn: async ({ parts, ...body }: SchemaVisitFieldsIn & { parts: string | null }) =>
      data(
        api.PUT('/api/v1/visits/{visit_id}/fields', {
          params: { path: { visit_id: visit.id } },
          body: parts === null ? body : { ...body, takes: await keyed(parts) },
        }),
      ),
    onSuccess: (visit) =>
      toast.success(`${remember(visit).number} changed`, {
        action: { label: 'Undo', onClick: () => undo.mutate() },
      }),
    onError: (error) => {
      if (error instanceof Problem && error.code === 'stale') complain(error);
    },
    onSettled: () => refreshSchedule(client),
  });
}

export function useStep(visitId: number) {
  const client = useQueryClient();
  const undo = useUndo();
  return useMutation({
    scope: SCOPE,
    mutationFn: (body: { version: number; step: SchemaStep; note: string; tell?: string }) =>
      data(
        api.POST('/api/v1/visits/{visit_id}/step', {
          params: { path: { visit_id: visitId } },
          body: { ...body, tell: body.tell ?? '' },
        }),
      ),
    onSuccess: (visit, { step, tell }) => {
      if (step !== 'cancel') return;
      toast.success(`${remember(visit).number} is cancelled${tell ? ', the customer will be told' : ''}`, {
        description: 'Messages wait a moment: undoing calls them back.',
        action: { label: 'Undo', onClick: () => undo.mutate() },
      });
    },
    onError: complain,
    onSettled: () => refreshSchedule(client),
  });
}

function nameOf(client: QueryClient, technicianId: number | null): string {
  const head = client.getQueryData(headsQuery.queryKey)?.find((row) => row.technician_id === technicianId);
  return head?.name ?? 'technician';
}

/** Show the change before the server has answered; returns how to take it back. */
function optimistic(client: QueryClient, visitId: number, placement: Placement | null): () => void {
  const before = client.getQueriesData<SchemaBoardOut>({ queryKey: keys.board });
  const backlogs = client.getQueriesData<{ total: number; visits: BacklogVisit[] }>({
    queryKey: keys.backlog,
  });
  const waiting = backlogs
    .flatMap(([, backlog]) => backlog?.visits ?? [])
    .find((visit) => visit.id === visitId);
  const standing = before.flatMap(([, part]) => part?.visits ?? []).find((visit) => visit.id === visitId);
  const source = standing ?? waiting;
  for (const [key, part] of before) {
    if (!part) continue;
    const others = part.visits.filter((visit) => visit.id !== visitId);
    const isHere =
      placement &&
      placement.start >= part.start &&
      placement.start < part.end &&
      part.lanes.some((lane) => lane.technician_id === placement.technicianId);
    if (isHere && source)
      client.setQueryData(key, { ...part, visits: [...others, moved(source, placement)] });
    else if (others.length < part.visits.length) client.setQueryData(key, { ...part, visits: others });
  }
  if (placement) {
    for (const [key, backlog] of backlogs) {
      if (!backlog) continue;
      client.setQueryData(key, {
        ...backlog,
        visits: backlog.visits.filter((visit) => visit.id !== visitId),
      });
    }
  }
  return () => [...before, ...backlogs].forEach(([key, value]) => client.setQueryData(key, value));
}

const moved = (visit: BacklogVisit | BoardVisit, placement: Placement): BoardVisit => ({
  ...visit,
  state: 'placed',
  technician_id: placement.technicianId,
  start: placement.start,
  lamp: 'lamp' in visit ? visit.lamp : 'dark',
  linked: 'linked' in visit && visit.linked,
  likelihood: null,
  expected_start: null,
  expected_end: null,
});

import { useMutation, useQueryClient, type QueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, data, Problem, sentenceOf } from '@/api/client';
import type { SchemaStep, SchemaVisitFieldsIn } from '@/api/types';
import { clockTime } from '@/shared/time';
import type { Grabbed } from './board/interaction';
import type { BacklogVisit, Board } from './model';
import { keys, refreshPlanning } from './queries';

// One after the other: quick hands must not overtake their own last change.
const SCOPE = { id: 'planning' };

/** Versions that one's own changes led to, before the screen has been told. */
const ownVersions = new Map<number, number>();

function versionOf(visit: { id: number; version: number }): number {
  return Math.max(visit.version, ownVersions.get(visit.id) ?? 0);
}

function remember<Visit extends { id: number; version: number }>(visit: Visit): Visit {
  ownVersions.set(visit.id, visit.version);
  return visit;
}

interface Placement {
  visit: Grabbed;
  technicianId: number;
  start: number;
  /** Who goes with the technician; left out: those who go already. */
  mates?: number[];
}

/** Place or move a visit. The board shows it at once and takes it back if the server refuses. */
export function usePlace() {
  const client = useQueryClient();
  const undo = useUndo();
  return useMutation({
    scope: SCOPE,
    mutationFn: ({ visit, technicianId, start, mates }: Placement) =>
      data(
        api.POST('/api/planning/visits/{visit_id}/place', {
          params: { path: { visit_id: visit.id } },
          body: { version: versionOf(visit), technician_id: technicianId, start, mates: mates ?? null },
        }),
      ),
    onMutate: async (placement) => {
      await client.cancelQueries({ queryKey: keys.board });
      return optimistic(client, placement.visit.id, placement);
    },
    onSuccess: ({ visit, verdict }) => {
      remember(visit);
      const warnings = verdict.reasons.filter((reason) => reason.weight === 'warns');
      const name = nameOf(client, visit.technician_id);
      const what = `${visit.number} placed: ${name}, ${clockTime(visit.start!)}`;
      const description = warnings.map((reason) => reason.sentence).join(' · ') || undefined;
      const action = { label: 'Undo', onClick: () => undo.mutate() };
      (warnings.length ? toast.warning : toast.success)(what, { description, action });
    },
    onError: (error, _placement, before) => {
      before?.();
      complain(error);
    },
    onSettled: () => refreshPlanning(client),
  });
}

export function useUnplace() {
  const client = useQueryClient();
  const undo = useUndo();
  return useMutation({
    scope: SCOPE,
    mutationFn: ({ visit }: { visit: Grabbed }) =>
      data(
        api.POST('/api/planning/visits/{visit_id}/unplace', {
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
    onSettled: () => refreshPlanning(client),
  });
}

export function useUndo() {
  const client = useQueryClient();
  return useMutation({
    scope: SCOPE,
    mutationFn: () => data(api.POST('/api/planning/undo', { body: {} })),
    onSuccess: ({ visit, sentence }) => {
      remember(visit);
      toast.info(`Undone: ${sentence}`);
    },
    onError: complain,
    onSettled: () => refreshPlanning(client),
  });
}

export function useSend() {
  const client = useQueryClient();
  return useMutation({
    scope: SCOPE,
    mutationFn: (visit: { id: number; version: number }) =>
      data(
        api.POST('/api/planning/visits/{visit_id}/send', {
          params: { path: { visit_id: visit.id } },
          body: { version: versionOf(visit) },
        }),
      ),
    onSuccess: (visit) => toast.success(`${remember(visit).number} sent: technician and customer are told`),
    onError: complain,
    onSettled: () => refreshPlanning(client),
  });
}

export function useSendDay() {
  const client = useQueryClient();
  return useMutation({
    scope: SCOPE,
    mutationFn: (day: string) => data(api.POST('/api/planning/send-day', { body: { day } })),
    onSuccess: ({ sent }) => toast.success(sent === 1 ? '1 visit sent' : `${sent} visits sent`),
    onError: complain,
    onSettled: () => refreshPlanning(client),
  });
}

export function useEdit(visitId: number) {
  const client = useQueryClient();
  const undo = useUndo();
  return useMutation({
    scope: SCOPE,
    mutationFn: (body: SchemaVisitFieldsIn) =>
      data(api.PUT('/api/planning/visits/{visit_id}', { params: { path: { visit_id: visitId } }, body })),
    onSuccess: (visit) =>
      toast.success(`${remember(visit).number} changed`, {
        action: { label: 'Undo', onClick: () => undo.mutate() },
      }),
    onError: (error) => {
      if (error instanceof Problem && error.code === 'stale') complain(error);
    },
    onSettled: () => refreshPlanning(client),
  });
}

export function useStep(visitId: number) {
  const client = useQueryClient();
  return useMutation({
    scope: SCOPE,
    mutationFn: (body: { version: number; step: SchemaStep; note: string }) =>
      data(
        api.POST('/api/planning/visits/{visit_id}/step', { params: { path: { visit_id: visitId } }, body }),
      ),
    onError: complain,
    onSettled: () => refreshPlanning(client),
  });
}

function complain(error: unknown) {
  const reasons = error instanceof Problem ? error.reasons.slice(1) : [];
  toast.error(sentenceOf(error), { description: reasons.join(' · ') || undefined, duration: 8000 });
}

function nameOf(client: QueryClient, technicianId: number | null): string {
  for (const [, board] of client.getQueriesData<Board>({ queryKey: keys.board })) {
    const lane = board?.lanes.find((row) => row.technician_id === technicianId);
    if (lane) return lane.name;
  }
  return 'technician';
}

/** Show the change before the server has answered; returns how to take it back. */
function optimistic(client: QueryClient, visitId: number, placement: Placement | null): () => void {
  const before = client.getQueriesData<Board>({ queryKey: keys.board });
  const backlogs = client.getQueriesData<{ total: number; visits: BacklogVisit[] }>({
    queryKey: keys.backlog,
  });
  const waiting = backlogs
    .flatMap(([, backlog]) => backlog?.visits ?? [])
    .find((visit) => visit.id === visitId);
  for (const [key, board] of before) {
    if (!board) continue;
    const shown = board.visits.find((visit) => visit.id === visitId);
    const others = board.visits.filter((visit) => visit.id !== visitId);
    const source = shown ?? waiting;
    const isHere = placement && placement.start >= board.start && placement.start < board.end;
    const moved =
      isHere && source
        ? [
            {
              ...source,
              state: 'placed' as const,
              technician_id: placement.technicianId,
              start: placement.start,
              lamp: shown?.lamp ?? ('dark' as const),
              likelihood: null,
              expected_start: null,
              expected_end: null,
            },
          ]
        : [];
    client.setQueryData<Board>(key, { ...board, visits: [...others, ...moved] });
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

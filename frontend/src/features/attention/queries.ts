import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { api, data } from '@/api/client';
import type { SchemaAction, SchemaPressingOut, SchemaWaitingDeedOut } from '@/api/types';
import { onChange } from '@/shared/live';
import { dayName } from '@/shared/time';

/** Something to look at, wherever it comes from. `key` stays the same as long as the matter does. */
export interface Matter {
  key: string;
  kind: 'declined' | 'nobody' | 'broken' | 'message' | 'call' | 'mail' | 'paper' | 'think' | 'stock' | 'told';
  label: string;
  sentence: string;
  visitId: number | null;
  /** Whose it is, where it is about somebody; a vehicle's leads to the vehicles. */
  personId?: number | null;
  /** Where in stock it is. */
  stock?: { orderId: number | null; placeId: number | null };
  /** What a reminder is about. */
  about?: { kind: string; id: number | null };
}

const KEY = ['attention'];
/** What changes often is not asked for each time. */
const REST = 2500;
const REFETCH = 30_000;

const asMatter = (row: SchemaPressingOut): Matter => ({
  key: row.key,
  kind: 'stock',
  label: row.label,
  sentence: row.sentence,
  visitId: null,
  stock: { orderId: row.order_id ?? null, placeId: row.place_id ?? null },
});

const asTold = (row: SchemaWaitingDeedOut): Matter => ({
  key: `told ${row.id}`,
  kind: 'told',
  label: row.label,
  sentence: `${row.technician} did something there that contradicts the records: ${row.sentence}`,
  visitId: row.visit_id ?? null,
});

async function fetchMatters(may: (action: SchemaAction) => boolean): Promise<Matter[]> {
  const [board, failed, calls, mail, papers, due, stock, told] = await Promise.all([
    may('see_board') ? data(api.GET('/api/v1/board/attention')) : [],
    may('see_messages')
      ? data(api.GET('/api/v1/messages', { params: { query: { state: 'failed' } } })).then(
          (page) => page.rows,
        )
      : [],
    may('see_messages') ? data(api.GET('/api/v1/messages/calls')) : [],
    may('take_requests') ? data(api.GET('/api/v1/intake/mail')) : [],
    may('see_board') ? data(api.GET('/api/v1/people/running-out')) : [],
    may('see_orders') ? data(api.GET('/api/v1/office-reminders', { params: { query: { due: true } } })) : [],
    may('see_stock') && may('see_board') ? data(api.GET('/api/v1/supply/pressing')) : [],
    may('change_visits') ? data(api.GET('/api/v1/field/waiting')) : [],
  ]);
  return [
    ...board.map((row) => ({ ...row, visitId: row.visit_id })),
    ...calls.map((row) => ({
      key: `call ${row.id}`,
      kind: 'call' as const,
      label: `${row.name} ${row.phone}`,
      sentence: `to be called. ${row.why}`,
      visitId: row.visit_id,
    })),
    ...failed.map((row) => ({
      key: `message ${row.id} ${row.written_at}`,
      kind: 'message' as const,
      label: row.name,
      sentence: `did not get a message: ${row.failure}`,
      visitId: row.visit_id,
    })),
    ...mail.map((row) => ({
      key: `mail ${row.id}`,
      kind: 'mail' as const,
      label: row.sender || 'E-mail',
      sentence: `could not be read: ${row.why}`,
      visitId: null,
    })),
    ...papers.map((row) => ({
      key: row.key,
      kind: 'paper' as const,
      label: row.label,
      sentence: row.sentence,
      visitId: null,
      personId: row.technician_id,
    })),
    ...due.map((row) => ({
      key: `think ${row.id}`,
      kind: 'think' as const,
      label: dayName(row.at),
      sentence: row.text,
      visitId: null,
      about: { kind: row.about, id: row.about_id ?? null },
    })),
    ...stock.map(asMatter),
    ...told.map(asTold),
  ];
}

/** What somebody should look at now, as far as one's role sees it; undefined until it is known. */
export function useMatters(may: (action: SchemaAction) => boolean): Matter[] | undefined {
  const client = useQueryClient();
  useEffect(() => {
    let waiting: number | undefined;
    const stop = onChange((change) => {
      if (
        !['visit', 'message', 'request', 'technician', 'reminder', 'stock', 'resync'].includes(change.topic)
      )
        return;
      waiting ??= window.setTimeout(() => {
        waiting = undefined;
        void client.invalidateQueries({ queryKey: KEY });
      }, REST);
    });
    return () => {
      window.clearTimeout(waiting);
      stop();
    };
  }, [client]);
  const found = useQuery({ queryKey: KEY, queryFn: () => fetchMatters(may), refetchInterval: REFETCH });
  return found.data;
}

/** Which of the processes behind the interface are away. */
export function usePartsAway(): ('worker' | 'planner')[] {
  const parts = useQuery({
    queryKey: ['parts'],
    queryFn: () => data(api.GET('/api/v1/health/parts')),
    refetchInterval: REFETCH,
    retry: false,
  });
  if (!parts.data) return [];
  const { worker, planner } = parts.data;
  return [...(worker ? [] : (['worker'] as const)), ...(planner ? [] : (['planner'] as const))];
}

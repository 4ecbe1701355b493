import { useMutation, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, data } from '@/api/client';
import type { SchemaRunIn } from '@/api/types';
import { complain } from '@/shared/complain';
import { keys, refreshSchedule } from '../queries';
import { useUndo } from '../undo';

export type RunWish = Partial<SchemaRunIn> & Pick<SchemaRunIn, 'kind' | 'day'>;

/** Ask for a proposal. Nothing changes until it is accepted. */
export function useStartRun() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (wish: RunWish) =>
      data(
        api.POST('/api/v1/runs', {
          body: { days: 1, visit_ids: [], seconds: 5, seed: 1, ...wish },
        }),
      ),
    onError: complain,
    onSettled: () => client.invalidateQueries({ queryKey: keys.runs }),
  });
}

export function useStopRun() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: number) =>
      data(api.POST('/api/v1/runs/{run_id}/stop', { params: { path: { run_id: id } } })),
    onError: complain,
    onSettled: () => client.invalidateQueries({ queryKey: keys.runs }),
  });
}

export function useAccept(runId: number) {
  const client = useQueryClient();
  const undo = useUndo();
  return useMutation({
    mutationFn: (visitIds: number[]) =>
      data(
        api.POST('/api/v1/runs/{run_id}/accept', {
          params: { path: { run_id: runId } },
          body: { visit_ids: visitIds },
        }),
      ),
    onSuccess: ({ changed, added }) => {
      const what = changed.length === 1 ? '1 change taken over' : `${changed.length} changes taken over`;
      const description = added.length ? `Needed by the others: ${added.join(', ')}` : undefined;
      toast.success(what, { description, action: { label: 'Undo', onClick: () => undo.mutate() } });
    },
    onError: complain,
    onSettled: () => {
      void client.invalidateQueries({ queryKey: keys.runs });
      refreshSchedule(client);
    },
  });
}

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, data } from '@/api/client';
import { stockKey } from '@/features/stock';
import { complain } from '@/shared/complain';
import { keys, refreshSchedule } from './queries';
import { remember, SCOPE } from './versions';

/** One's own last changes that can be undone, and those that can be done again. */
export function useChanges(enabled: boolean) {
  return useQuery({ queryKey: keys.undo, enabled, queryFn: () => data(api.GET('/api/v1/board/undo')) });
}

export function useUndo() {
  return useGoing('/api/v1/board/undo', 'Undone');
}

export function useRedo() {
  return useGoing('/api/v1/board/redo', 'Done again');
}

function useGoing(path: '/api/v1/board/undo' | '/api/v1/board/redo', word: string) {
  const client = useQueryClient();
  return useMutation({
    scope: SCOPE,
    mutationFn: () =>
      path === '/api/v1/board/undo' ? data(api.POST(path, { body: {} })) : data(api.POST(path)),
    onSuccess: ({ visit, sentence }) => {
      if (visit) remember(visit);
      toast.info(`${word}, of what you did here: ${sentence}`);
    },
    onError: complain,
    onSettled: () => {
      refreshSchedule(client);
      // What was undone may not have been a visit.
      void client.invalidateQueries({ queryKey: ['crews'] });
      void client.invalidateQueries({ queryKey: stockKey });
    },
  });
}

import { infiniteQueryOptions, queryOptions, type QueryClient } from '@tanstack/react-query';
import { api, data } from '@/api/client';
import { nextOf } from '@/shared/pages';

/** Everything that is told of what stands on technicians' days begins with this. */
export const scheduleKey = ['schedule'] as const;
export const visitKey = ['orders', 'visit'] as const;

export const keys = {
  undo: [...scheduleKey, 'undo'] as const,
  // Runs tell of themselves: they are not looked up again with every change of a visit.
  runs: ['runs'] as const,
  playbooks: ['playbooks'] as const,
};

/** Look again at the days, and at the visits that are open. */
export function refreshSchedule(client: QueryClient) {
  void client.invalidateQueries({ queryKey: scheduleKey });
  void client.invalidateQueries({ queryKey: visitKey });
}

export const runQuery = (id: number) =>
  queryOptions({
    queryKey: [...keys.runs, id],
    queryFn: () => data(api.GET('/api/v1/runs/{run_id}', { params: { path: { run_id: id } } })),
    // Live changes tell of progress; this is for when they are interrupted.
    refetchInterval: (query) =>
      ['queued', 'running'].includes(query.state.data?.state ?? '') ? 2_000 : false,
  });

/** Planning runs, the newest first, page by page. */
export const runsQuery = infiniteQueryOptions({
  queryKey: [...keys.runs, 'latest'],
  queryFn: ({ pageParam: cursor }) => data(api.GET('/api/v1/runs', { params: { query: { cursor } } })),
  initialPageParam: '',
  getNextPageParam: nextOf,
});

export const playbooksQuery = queryOptions({
  queryKey: keys.playbooks,
  queryFn: () => data(api.GET('/api/v1/playbooks')),
});

import { queryOptions, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { api, data } from '@/api/client';
import { onChange } from '@/shared/live';

export const fieldKey = ['field'] as const;
/** What lies on the phone itself: not asked of the server. */
export const keptKey = ['kept'] as const;

export const ownDayQuery = queryOptions({
  queryKey: [...fieldKey, 'day'],
  queryFn: () => data(api.GET('/api/v1/field/day')),
  refetchOnWindowFocus: true,
});

export const ownVisitQuery = (id: number) =>
  queryOptions({
    queryKey: [...fieldKey, 'visit', id],
    queryFn: () => data(api.GET('/api/v1/field/visits/{visit_id}', { params: { path: { visit_id: id } } })),
  });

export const wayQuery = (id: number) =>
  queryOptions({
    queryKey: [...fieldKey, 'way', id],
    queryFn: () =>
      data(api.GET('/api/v1/field/visits/{visit_id}/way', { params: { path: { visit_id: id } } })),
    staleTime: Infinity,
  });

export function useLiveField() {
  const client = useQueryClient();
  useEffect(
    () =>
      onChange((change) => {
        if (change.topic === 'visit' || change.topic === 'resync')
          void client.invalidateQueries({ queryKey: fieldKey });
      }),
    [client],
  );
}

import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { api, data } from '@/api/client';
import { onChange } from '@/shared/live';

export const requestsKey = ['intake', 'requests'] as const;

export function useNewRequests() {
  const client = useQueryClient();
  useEffect(
    () =>
      onChange((change) => {
        if (change.topic === 'request' || change.topic === 'resync')
          void client.invalidateQueries({ queryKey: requestsKey });
      }),
    [client],
  );
  return useQuery({
    queryKey: requestsKey,
    queryFn: () => data(api.GET('/api/intake/requests', { params: { query: { state: 'new' } } })),
  });
}

export function useJobTypes() {
  return useQuery({
    queryKey: ['catalogue', 'job-types'],
    queryFn: () => data(api.GET('/api/catalogue/job-types')),
    staleTime: Infinity,
  });
}

import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { api, data } from '@/api/client';
import { onChange } from '@/shared/live';

/** Job types, the most urgent first. */
export function useJobTypes(retired = false) {
  const client = useQueryClient();
  useEffect(
    () =>
      onChange((change) => {
        if (change.topic === 'catalogue') void client.invalidateQueries({ queryKey: ['catalogue'] });
      }),
    [client],
  );
  return useQuery({
    queryKey: ['catalogue', 'job-types', retired],
    queryFn: () => data(api.GET('/api/v1/catalogue/job-types', { params: { query: { retired } } })),
    staleTime: 300_000,
  });
}

export function useEditions(jobTypeId: number | null) {
  return useQuery({
    queryKey: ['catalogue', 'editions', jobTypeId],
    enabled: jobTypeId !== null,
    queryFn: () =>
      data(
        api.GET('/api/v1/catalogue/job-types/{job_type_id}/editions', {
          params: { path: { job_type_id: jobTypeId! } },
        }),
      ),
  });
}

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, data } from '@/api/client';
import type { SchemaJobTypeOut } from '@/api/types';

/** Job types, the most urgent first. */
export function useJobTypes(retired = false) {
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

/** Who has a job type. */
export const useJobTypeUses = (id: number) =>
  useQuery({
    queryKey: ['catalogue', 'uses', id],
    queryFn: () =>
      data(
        api.GET('/api/v1/catalogue/job-types/{job_type_id}/uses', { params: { path: { job_type_id: id } } }),
      ),
  });

/** Make a job type one with another. */
export function useMergeJobType() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ job, into }: { job: SchemaJobTypeOut; into: number }) =>
      data(
        api.POST('/api/v1/catalogue/job-types/{job_type_id}/merge', {
          params: { path: { job_type_id: job.id } },
          body: { version: job.version, into },
        }),
      ),
    onSuccess: () => client.invalidateQueries({ queryKey: ['catalogue'] }),
  });
}

/** Job types that companies of a trade begin with, and which are here already. */
export const useStarters = () =>
  useQuery({
    queryKey: ['catalogue', 'starters'],
    queryFn: () => data(api.GET('/api/v1/catalogue/starters')),
  });

export function useTakeStarters() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (codes: string[]) => data(api.POST('/api/v1/catalogue/starters', { body: { codes } })),
    onSuccess: () => {
      void client.invalidateQueries({ queryKey: ['catalogue'] });
      void client.invalidateQueries({ queryKey: ['skills'] });
    },
  });
}

import { useMutation, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, data } from '@/api/client';
import type { SchemaJobTypeIn } from '@/api/types';

/** Keep a job type: a new one, or the next edition of one that exists. */
export function useKeepJobType() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ id, version, body }: { id: number | null; version: number; body: SchemaJobTypeIn }) =>
      id === null
        ? data(api.POST('/api/v1/catalogue/job-types', { body }))
        : data(
            api.PUT('/api/v1/catalogue/job-types/{job_type_id}', {
              params: { path: { job_type_id: id } },
              body: { ...body, version },
            }),
          ),
    // Said here and not by the form: a new edition heard of over the live stream has put another form in its place.
    onSuccess: (made) => toast.success(`${made.name} is at edition ${made.version}`),
    onSettled: () => client.invalidateQueries({ queryKey: ['catalogue'] }),
  });
}

import { useMutation, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, data } from '@/api/client';
import type { SchemaJobTypeIn } from '@/api/types';
import { useKeyedParts } from '@/features/stock';

interface Kept {
  id: number | null;
  version: number;
  body: SchemaJobTypeIn;
  /** Lines that were typed for its parts; null: none were. */
  parts: string | null;
}

/** Keep a job type: a new one, or the next edition of one that exists. */
export function useKeepJobType() {
  const client = useQueryClient();
  const keyed = useKeyedParts();
  return useMutation({
    mutationFn: async ({ id, version, body, parts }: Kept) => {
      const whole = parts === null ? body : { ...body, parts: await keyed(parts) };
      if (id === null) return data(api.POST('/api/v1/catalogue/job-types', { body: whole }));
      const params = { path: { job_type_id: id } };
      return data(
        api.PUT('/api/v1/catalogue/job-types/{job_type_id}', { params, body: { ...whole, version } }),
      );
    },
    // Said here and not by the form: a new edition heard of over the live stream has put another form in its place.
    onSuccess: (made) => toast.success(`${made.name} is at edition ${made.version}`),
    onSettled: () => client.invalidateQueries({ queryKey: ['catalogue'] }),
  });
}

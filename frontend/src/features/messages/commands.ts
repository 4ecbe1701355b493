import { useMutation, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, data } from '@/api/client';
import type { SchemaLetterIn } from '@/api/types';

/** A few words about a visit, to its customer or its technician. */
export function useWriteAbout(visitId: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: SchemaLetterIn) =>
      data(api.POST('/api/messages/visits/{visit_id}', { params: { path: { visit_id: visitId } }, body })),
    onSuccess: ({ name, channel }) => toast.success(`Written to ${name} by ${channel}`),
    onSettled: () => client.invalidateQueries({ queryKey: ['orders', 'visit', visitId] }),
  });
}

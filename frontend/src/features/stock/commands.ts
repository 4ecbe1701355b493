import { useMutation, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, data, sentenceOf } from '@/api/client';
import type { SchemaVanPartOut } from '@/api/types';
import { stockKey, vanQuery } from './queries';

interface Count {
  part: string;
  /** Null: the van does not carry it any more. */
  quantity: number | null;
  /** The row as it was seen; null: it was not on the list. */
  seen: SchemaVanPartOut | null;
}

/** Say how many of a part lie on a van. The message carries the way back. */
export function useCount(technicianId: number, onChanged: () => void, undo: () => void) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ part, quantity, seen }: Count) =>
      data(
        api.PUT('/api/v1/stock/vans/{technician_id}', {
          params: { path: { technician_id: technicianId } },
          body: { part, quantity, version: seen?.version ?? null },
        }),
      ),
    onSuccess: (van, { part, quantity }) => {
      client.setQueryData(vanQuery(technicianId).queryKey, van);
      toast.success(quantity === null ? `${part} taken off the list` : `${quantity} × ${part} on the van`, {
        action: { label: 'Undo', onClick: () => undo() },
      });
      onChanged();
    },
    onError: (error) => {
      toast.error(sentenceOf(error), { duration: 8000 });
      void client.invalidateQueries({ queryKey: stockKey });
    },
  });
}

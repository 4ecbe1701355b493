import { useMutation, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, data, sentenceOf } from '@/api/client';
import type { SchemaVanPartOut } from '@/api/types';
import { fromLines } from '@/shared/counted';
import { partsQuery, stockKey, vanQuery } from './queries';

/** Quantities by key from lines like "2 Door roller"; a part that is not known yet gets its name there. */
export function useKeyedParts(): (text: string) => Promise<Record<string, number>> {
  const client = useQueryClient();
  return async (text) => {
    const typed = Object.entries(fromLines(text));
    if (typed.length === 0) return {};
    // Those on the list first: the lines were written from it, and may say a name that has just been changed.
    const known = client.getQueryData(partsQuery.queryKey) ?? [];
    const codes = new Map(known.map((row) => [row.name.toLowerCase(), row.code]));
    const names = typed.map(([name]) => name).filter((name) => !codes.has(name.toLowerCase()));
    if (names.length > 0) {
      const made = await data(api.POST('/api/v1/parts', { body: { names } }));
      made.forEach((row, place) => codes.set(names[place]!.toLowerCase(), row.code));
      void client.invalidateQueries({ queryKey: partsQuery.queryKey });
    }
    const found: Record<string, number> = {};
    for (const [name, count] of typed) {
      const code = codes.get(name.toLowerCase())!;
      found[code] = (found[code] ?? 0) + count;
    }
    return found;
  };
}

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
        api.PUT('/api/v1/technicians/{technician_id}/van', {
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

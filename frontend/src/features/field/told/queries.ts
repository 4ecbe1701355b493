import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query';
import { api, data } from '@/api/client';
import type { SchemaChoice } from '@/api/types';

const KEY = ['told'] as const;

export const toldQuery = queryOptions({
  queryKey: KEY,
  queryFn: () => data(api.GET('/api/v1/field/waiting')),
  refetchInterval: 30_000,
});

export function useSettle() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ id, choice, words }: { id: string; choice: SchemaChoice; words: string }) =>
      data(
        api.POST('/api/v1/field/waiting/{deed_id}', {
          params: { path: { deed_id: id } },
          body: { choice, words },
        }),
      ),
    onSettled: () => {
      void client.invalidateQueries({ queryKey: KEY });
      void client.invalidateQueries({ queryKey: ['attention'] });
    },
  });
}

import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api, data } from '@/api/client';
import type { SchemaRequestIn } from '@/api/types';
import { requestsKey } from './queries';

export function useTakeRequest() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: SchemaRequestIn) => data(api.POST('/api/intake/requests', { body })),
    onSettled: () => client.invalidateQueries({ queryKey: requestsKey }),
  });
}

export function useMakeOrder() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (request: { id: number; version: number }) =>
      data(api.POST('/api/orders', { body: { request_id: request.id, version: request.version } })),
    onSettled: () => {
      void client.invalidateQueries({ queryKey: requestsKey });
      void client.invalidateQueries({ queryKey: ['planning'] });
    },
  });
}

export function useCloseRequest() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ id, ...body }: { id: number; version: number; reason: string }) =>
      data(
        api.POST('/api/intake/requests/{request_id}/close', { params: { path: { request_id: id } }, body }),
      ),
    onSettled: () => client.invalidateQueries({ queryKey: requestsKey }),
  });
}

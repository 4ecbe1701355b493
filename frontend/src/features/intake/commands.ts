import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api, data } from '@/api/client';
import type { SchemaBookIn, SchemaOneOffIn, SchemaRequestIn } from '@/api/types';
import { requestsKey } from './queries';

function useLookAgain() {
  const client = useQueryClient();
  return () => {
    for (const key of [requestsKey, ['schedule'], ['orders'], ['intake', 'offers']])
      void client.invalidateQueries({ queryKey: key });
  };
}

export function useTakeRequest() {
  return useMutation({
    mutationFn: (body: SchemaRequestIn) => data(api.POST('/api/v1/requests', { body })),
    onSettled: useLookAgain(),
  });
}

/** Everything a call comes to, at once: request, order, promise; or nothing of it. */
export function useBook() {
  return useMutation({
    mutationFn: ({ body, key }: { body: SchemaBookIn; key: string }) =>
      data(api.POST('/api/v1/appointments/book', { body, headers: { 'Idempotency-Key': key } })),
    onSettled: useLookAgain(),
  });
}

/** An order that is agreed already, on one form. */
export function useMakeOneOff() {
  return useMutation({
    mutationFn: ({ body, key }: { body: SchemaOneOffIn; key: string }) =>
      data(api.POST('/api/v1/orders/one-off', { body, headers: { 'Idempotency-Key': key } })),
    onSettled: useLookAgain(),
  });
}

export function useMakeOrder() {
  return useMutation({
    mutationFn: (request: { id: number; version: number }) =>
      data(api.POST('/api/v1/orders', { body: { request_id: request.id, version: request.version } })),
    onSettled: useLookAgain(),
  });
}

export function useCloseRequest() {
  return useMutation({
    mutationFn: ({ id, ...body }: { id: number; version: number; reason: string }) =>
      data(
        api.POST('/api/v1/requests/{request_id}/close', {
          params: { path: { request_id: id } },
          body,
        }),
      ),
    onSettled: useLookAgain(),
  });
}

export function useJoinRequests() {
  return useMutation({
    mutationFn: ({ id, ...body }: { id: number; version: number; into_id: number }) =>
      data(api.POST('/api/v1/requests/{request_id}/join', { params: { path: { request_id: id } }, body })),
    onSettled: useLookAgain(),
  });
}

export function useAnswerRequest() {
  return useMutation({
    mutationFn: ({ id, text }: { id: number; text: string }) =>
      data(
        api.POST('/api/v1/requests/{request_id}/answer', {
          params: { path: { request_id: id } },
          body: { text },
        }),
      ),
    onSettled: useLookAgain(),
  });
}

export function useNoteOnRequest() {
  return useMutation({
    mutationFn: ({ id, text }: { id: number; text: string }) =>
      data(
        api.POST('/api/v1/requests/{request_id}/notes', {
          params: { path: { request_id: id } },
          body: { text },
        }),
      ),
    onSettled: useLookAgain(),
  });
}

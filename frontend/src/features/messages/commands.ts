import { useMutation, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, data, sentenceOf } from '@/api/client';
import type { SchemaLetterIn } from '@/api/types';
import { KEY } from './queries';

/** A few words about a visit, to its customer or its technician. */
export function useWriteAbout(visitId: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: SchemaLetterIn) =>
      data(api.POST('/api/v1/visits/{visit_id}/messages', { params: { path: { visit_id: visitId } }, body })),
    onSuccess: ({ name, channel }) => toast.success(`Written to ${name} by ${channel}`),
    onSettled: () => client.invalidateQueries({ queryKey: ['orders', 'visit', visitId] }),
  });
}

/** A message that failed, once more. */
export function useSendAgain() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: number) =>
      data(api.POST('/api/v1/messages/{message_id}/again', { params: { path: { message_id: id } } })),
    onSuccess: ({ name, address }) => toast.success(`Sent again to ${name}, ${address}`),
    onError: (error) => toast.error(sentenceOf(error)),
    onSettled: () => client.invalidateQueries({ queryKey: KEY }),
  });
}

/** Somebody was called. */
export function useCalled() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: number) =>
      data(api.POST('/api/v1/messages/calls/{call_id}/done', { params: { path: { call_id: id } } })),
    onError: (error) => toast.error(sentenceOf(error)),
    onSettled: () => client.invalidateQueries({ queryKey: KEY }),
  });
}

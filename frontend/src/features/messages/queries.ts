import { infiniteQueryOptions, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { api, data } from '@/api/client';
import { onChange } from '@/shared/live';
import { nextOf } from '@/shared/pages';

export const KEY = ['messages'] as const;

/** What was written, the newest first, page by page; all of it, or what was not delivered. */
export const outboxQuery = (failedOnly: boolean) =>
  infiniteQueryOptions({
    queryKey: [...KEY, 'outbox', failedOnly],
    queryFn: ({ pageParam: cursor }) =>
      data(
        api.GET('/api/v1/messages', { params: { query: { cursor, state: failedOnly ? 'failed' : null } } }),
      ),
    initialPageParam: '',
    getNextPageParam: nextOf,
  });

/** Who has to be called by a person. */
export const callsQuery = {
  queryKey: [...KEY, 'calls'],
  queryFn: () => data(api.GET('/api/v1/messages/calls')),
};

/** What the customer would usually read when a visit is cancelled. */
export const cancellingQuery = (visitId: number) => ({
  queryKey: [...KEY, 'cancelling', visitId],
  queryFn: () =>
    data(api.GET('/api/v1/messages/cancelling/{visit_id}', { params: { path: { visit_id: visitId } } })),
});

/** The same for many visits, its words in braces not filled in yet. */
export const cancellingTextQuery = {
  queryKey: [...KEY, 'cancelling'],
  queryFn: () => data(api.GET('/api/v1/messages/cancelling')),
};

/** Look again whenever a message is written, goes out, or does not. */
export function useMessagesLive() {
  const client = useQueryClient();
  useEffect(
    () =>
      onChange((change) => {
        if (change.topic === 'message' || change.topic === 'resync')
          void client.invalidateQueries({ queryKey: KEY });
      }),
    [client],
  );
}

import { keepPreviousData, useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { api, data } from '@/api/client';
import type { SchemaJobTypeOut, SchemaOneOffIn } from '@/api/types';
import { useRecordFields } from '@/features/company';
import { useFollowing } from '@/shared/following';
import { nextOf } from '@/shared/pages';
import type { Question } from '@/shared/questions';

export const requestsKey = ['intake', 'requests'] as const;
export type RequestState = 'new' | 'quoted' | 'ordered' | 'closed';

/** Requests in one state, page by page. */
export function useRequests(state: RequestState = 'new') {
  useFollowing(requestsKey, ['request']);
  return useInfiniteQuery({
    queryKey: [...requestsKey, state],
    queryFn: ({ pageParam: cursor }) =>
      data(api.GET('/api/v1/requests', { params: { query: { state, cursor } } })),
    initialPageParam: '',
    getNextPageParam: nextOf,
  });
}

export function useRequest(id: number | null) {
  return useQuery({
    queryKey: [...requestsKey, 'one', id],
    enabled: id !== null,
    queryFn: () => data(api.GET('/api/v1/requests/{request_id}', { params: { path: { request_id: id! } } })),
  });
}

/** What happened to a request, the newest first, page by page. */
export function useRequestHistory(id: number) {
  return useInfiniteQuery({
    queryKey: [...requestsKey, 'one', id, 'history'],
    queryFn: ({ pageParam: cursor }) =>
      data(
        api.GET('/api/v1/requests/{request_id}/history', {
          params: { path: { request_id: id }, query: { cursor } },
        }),
      ),
    initialPageParam: '',
    getNextPageParam: nextOf,
  });
}

/** What is open at a site already: requests that wait, and work that is not done. */
export function useOpenThere(siteId: number) {
  useFollowing(['orders', 'open', siteId], ['visit', 'request']);
  return useQuery({
    queryKey: ['orders', 'open', siteId],
    queryFn: async () => {
      const [requests, visits] = await Promise.all([
        data(api.GET('/api/v1/requests', { params: { query: { state: 'new', site_id: siteId } } })).then(
          (page) => page.rows,
        ),
        data(api.GET('/api/v1/orders/open/site/{site_id}', { params: { path: { site_id: siteId } } })),
      ]);
      return { requests, visits };
    },
  });
}

/** What is asked for every order: by its job type, and by the company. */
export function useOrderQuestions(job: SchemaJobTypeOut | undefined): Question[] {
  const own = useRecordFields();
  return [
    ...((job?.fields ?? []) as unknown as Question[]),
    ...((own.data?.find((row) => row.record === 'order')?.questions ?? []) as unknown as Question[]),
  ];
}

/** What would become of a one-off job: its visits and its lines. Null: too little is said. */
export function useOneOffRead(body: SchemaOneOffIn | null) {
  return useQuery({
    queryKey: ['orders', 'one-off', body],
    enabled: body !== null,
    queryFn: ({ signal }) => data(api.POST('/api/v1/orders/one-off/read', { body: body!, signal })),
    placeholderData: keepPreviousData,
    staleTime: 60_000,
    retry: false,
  });
}

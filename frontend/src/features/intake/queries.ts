import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { api, data } from '@/api/client';
import type { SchemaOffersIn } from '@/api/types';
import { onChange } from '@/shared/live';

export const requestsKey = ['intake', 'requests'] as const;
export type RequestState = 'new' | 'quoted' | 'ordered' | 'closed';

function useFollowing(key: readonly unknown[], topics: string[]) {
  const client = useQueryClient();
  useEffect(
    () =>
      onChange((change) => {
        if (topics.includes(change.topic) || change.topic === 'resync')
          void client.invalidateQueries({ queryKey: key });
      }),
    // The key and the topics of a hook never change.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [client],
  );
}

export function useRequests(state: RequestState = 'new') {
  useFollowing(requestsKey, ['request']);
  return useQuery({
    queryKey: [...requestsKey, state],
    queryFn: () => data(api.GET('/api/intake/requests', { params: { query: { state } } })),
  });
}

export function useRequestsOf(customerId: number) {
  return useQuery({
    queryKey: [...requestsKey, 'of', customerId],
    queryFn: () => data(api.GET('/api/intake/requests', { params: { query: { customer_id: customerId } } })),
  });
}

export function useRequest(id: number | null) {
  return useQuery({
    queryKey: [...requestsKey, 'one', id],
    enabled: id !== null,
    queryFn: () =>
      data(api.GET('/api/intake/requests/{request_id}', { params: { path: { request_id: id! } } })),
  });
}

/** Windows that can be kept for the call as far as it is typed; asked again when anything on the days changes. */
export function useOffers(asked: SchemaOffersIn | null) {
  useFollowing(['intake', 'offers'], ['visit', 'company']);
  return useQuery({
    queryKey: ['intake', 'offers', asked],
    enabled: asked !== null,
    queryFn: ({ signal }) => data(api.POST('/api/planning/offers', { body: asked!, signal })),
    // While the same job's are looked for anew the old ones stay; another job's say nothing about this one.
    placeholderData: (before, query) =>
      sameJob((query?.queryKey as [string, string, SchemaOffersIn | null] | undefined)?.[2], asked)
        ? before
        : undefined,
    staleTime: 20_000,
  });
}

const sameJob = (one: SchemaOffersIn | null | undefined, two: SchemaOffersIn | null) =>
  one?.job_type_id === two?.job_type_id && one?.site_id === two?.site_id;

/** Says that offers will be asked for soon: the planner makes the days ready while the caller still says the name. */
export function useExpectOffers(enabled: boolean) {
  useQuery({
    queryKey: ['intake', 'expected'],
    enabled,
    // Whatever comes of it, the offers themselves say what is wrong.
    queryFn: () => api.POST('/api/planning/offers/expected').then(() => true),
    refetchInterval: 5 * 60_000,
    retry: false,
  });
}

/** What was done on the asset lately, or at the site. */
export function useWorkDone(siteId: number, assetId: number | null) {
  return useQuery({
    queryKey: ['orders', 'done', siteId, assetId],
    queryFn: () =>
      assetId === null
        ? data(api.GET('/api/orders/done/site/{site_id}', { params: { path: { site_id: siteId } } }))
        : data(api.GET('/api/orders/done/asset/{asset_id}', { params: { path: { asset_id: assetId } } })),
  });
}

/** What is open at a site already: requests that wait, and work that is not done. */
export function useOpenThere(siteId: number) {
  useFollowing(['orders', 'open', siteId], ['visit', 'request']);
  return useQuery({
    queryKey: ['orders', 'open', siteId],
    queryFn: async () => {
      const [requests, visits] = await Promise.all([
        data(api.GET('/api/intake/requests', { params: { query: { state: 'new', site_id: siteId } } })),
        data(api.GET('/api/orders/open/site/{site_id}', { params: { path: { site_id: siteId } } })),
      ]);
      return { requests, visits };
    },
  });
}

/** Hours free, promised and expected, by area and day. */
export function useCapacity(first: string, days: number, skill: string) {
  useFollowing(['intake', 'capacity'], ['visit']);
  return useQuery({
    queryKey: ['intake', 'capacity', first, days, skill],
    queryFn: () => data(api.GET('/api/planning/capacity', { params: { query: { first, days, skill } } })),
    placeholderData: keepPreviousData,
  });
}

/** The work behind the figures of one day in one area, or of the whole company. */
export function useBehind(day: string, area: string, skill: string) {
  return useQuery({
    queryKey: ['intake', 'capacity', 'behind', day, area, skill],
    queryFn: () =>
      data(api.GET('/api/planning/capacity/{day}', { params: { path: { day }, query: { area, skill } } })),
  });
}

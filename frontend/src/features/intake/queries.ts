import { useQuery } from '@tanstack/react-query';
import { api, data } from '@/api/client';
import { useFollowing } from '@/shared/following';

export const requestsKey = ['intake', 'requests'] as const;
export type RequestState = 'new' | 'quoted' | 'ordered' | 'closed';

export function useRequests(state: RequestState = 'new') {
  useFollowing(requestsKey, ['request']);
  return useQuery({
    queryKey: [...requestsKey, state],
    queryFn: () => data(api.GET('/api/v1/intake/requests', { params: { query: { state } } })),
  });
}

export function useRequestsOf(customerId: number) {
  return useQuery({
    queryKey: [...requestsKey, 'of', customerId],
    queryFn: () =>
      data(api.GET('/api/v1/intake/requests', { params: { query: { customer_id: customerId } } })),
  });
}

export function useRequest(id: number | null) {
  return useQuery({
    queryKey: [...requestsKey, 'one', id],
    enabled: id !== null,
    queryFn: () =>
      data(api.GET('/api/v1/intake/requests/{request_id}', { params: { path: { request_id: id! } } })),
  });
}

/** What was done on the asset lately, or at the site. */
export function useWorkDone(siteId: number, assetId: number | null) {
  return useQuery({
    queryKey: ['orders', 'done', siteId, assetId],
    queryFn: () =>
      assetId === null
        ? data(api.GET('/api/v1/orders/done/site/{site_id}', { params: { path: { site_id: siteId } } }))
        : data(api.GET('/api/v1/orders/done/asset/{asset_id}', { params: { path: { asset_id: assetId } } })),
  });
}

/** What is open at a site already: requests that wait, and work that is not done. */
export function useOpenThere(siteId: number) {
  useFollowing(['orders', 'open', siteId], ['visit', 'request']);
  return useQuery({
    queryKey: ['orders', 'open', siteId],
    queryFn: async () => {
      const [requests, visits] = await Promise.all([
        data(api.GET('/api/v1/intake/requests', { params: { query: { state: 'new', site_id: siteId } } })),
        data(api.GET('/api/v1/orders/open/site/{site_id}', { params: { path: { site_id: siteId } } })),
      ]);
      return { requests, visits };
    },
  });
}

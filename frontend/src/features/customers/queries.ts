import { keepPreviousData, useInfiniteQuery, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { api, data } from '@/api/client';
import { onChange } from '@/shared/live';
import { nextOf } from '@/shared/pages';

/** Customers by name, phone, e-mail, address, contact or serial, as one types. */
export function useCustomerSearch(text: string) {
  return useQuery({
    queryKey: ['customers', 'find', text],
    enabled: text.trim().length >= 2,
    queryFn: () => data(api.GET('/api/v1/customers', { params: { query: { text } } })),
    placeholderData: keepPreviousData,
  });
}

/** Every site, for a map. */
export function useSitesOnMap(wanted: boolean) {
  return useQuery({
    queryKey: ['customers', 'sites-on-map'],
    enabled: wanted,
    queryFn: () => data(api.GET('/api/v1/sites/on-map')),
    staleTime: 5 * 60_000,
  });
}

export function useLatestCustomers(tag = '') {
  return useQuery({
    queryKey: ['customers', 'latest', tag],
    queryFn: () => data(api.GET('/api/v1/customers/latest', { params: { query: { tag } } })),
  });
}

export function useCustomer(id: number | null) {
  const client = useQueryClient();
  useEffect(
    () =>
      onChange((change) => {
        if (change.topic === 'customer' || change.topic === 'resync')
          void client.invalidateQueries({ queryKey: ['customers', 'one'] });
      }),
    [client],
  );
  return useQuery({
    queryKey: ['customers', 'one', id],
    enabled: id !== null,
    queryFn: () =>
      data(api.GET('/api/v1/customers/{customer_id}', { params: { path: { customer_id: id! } } })),
  });
}

/** What happened to a customer, the newest first, page by page. */
export function useCustomerHistory(id: number) {
  return useInfiniteQuery({
    queryKey: ['customers', 'one', id, 'history'],
    queryFn: ({ pageParam: cursor }) =>
      data(
        api.GET('/api/v1/customers/{customer_id}/history', {
          params: { path: { customer_id: id }, query: { cursor } },
        }),
      ),
    initialPageParam: '',
    getNextPageParam: nextOf,
  });
}

export interface Like {
  name: string;
  phone: string;
  email: string;
  address: string;
}

/** Customers that a new one may duplicate, with every reason. */
export function useTwins(wanted: Like, but = 0) {
  return useQuery({
    queryKey: ['customers', 'twins', wanted, but],
    enabled:
      wanted.name.length >= 3 ||
      wanted.phone.length >= 6 ||
      wanted.email.includes('@') ||
      wanted.address.length >= 6,
    queryFn: () => data(api.GET('/api/v1/customers/twins', { params: { query: { ...wanted, but } } })),
    placeholderData: keepPreviousData,
  });
}

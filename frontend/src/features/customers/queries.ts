import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { api, data } from '@/api/client';

/** Customers by name, phone, site address or asset serial. */
export function useCustomerSearch(text: string) {
  return useQuery({
    queryKey: ['customers', 'find', text],
    enabled: text.trim().length >= 2,
    queryFn: () => data(api.GET('/api/customers', { params: { query: { text } } })),
    placeholderData: keepPreviousData,
  });
}

export function useCustomer(id: number | null) {
  return useQuery({
    queryKey: ['customers', 'one', id],
    enabled: id !== null,
    queryFn: () => data(api.GET('/api/customers/{customer_id}', { params: { path: { customer_id: id! } } })),
  });
}

/** Customers that a new one may duplicate. */
export function useSimilar(wanted: { name: string; phone: string; email: string }) {
  return useQuery({
    queryKey: ['customers', 'similar', wanted],
    enabled: wanted.name.length >= 3 || wanted.phone.length >= 6 || wanted.email.includes('@'),
    queryFn: () => data(api.GET('/api/customers/similar', { params: { query: wanted } })),
    placeholderData: keepPreviousData,
  });
}

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { api, data } from '@/api/client';

/** Addresses of the region by typing. */
export function useAddresses(text: string) {
  return useQuery({
    queryKey: ['roads', 'addresses', text],
    enabled: text.trim().length >= 3,
    queryFn: () => data(api.GET('/api/v1/roads/addresses', { params: { query: { text } } })),
    placeholderData: keepPreviousData,
  });
}

export function addressAt(lon: number, lat: number) {
  return data(api.GET('/api/v1/roads/address-at', { params: { query: { lon, lat } } }));
}

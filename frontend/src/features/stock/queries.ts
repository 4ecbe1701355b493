import { queryOptions, useQuery } from '@tanstack/react-query';
import { api, data } from '@/api/client';

export const stockKey = ['stock'] as const;

export const vanQuery = (technicianId: number) =>
  queryOptions({
    queryKey: [...stockKey, 'van', technicianId],
    queryFn: () =>
      data(
        api.GET('/api/v1/stock/vans/{technician_id}', { params: { path: { technician_id: technicianId } } }),
      ),
  });

/** What lies on a technician's van; empty: nobody counts it. */
export const useVan = (technicianId: number | null) =>
  useQuery({ ...vanQuery(technicianId ?? 0), enabled: technicianId !== null });

/** Names of parts that are known. */
export const partsQuery = queryOptions({
  queryKey: [...stockKey, 'parts'],
  queryFn: () => data(api.GET('/api/v1/stock/parts')),
  staleTime: 5 * 60_000,
});

import { queryOptions, useQuery } from '@tanstack/react-query';
import { useCallback } from 'react';
import { api, data } from '@/api/client';

export const stockKey = ['stock'] as const;

export const vanQuery = (technicianId: number) =>
  queryOptions({
    queryKey: [...stockKey, 'van', technicianId],
    queryFn: () =>
      data(
        api.GET('/api/v1/technicians/{technician_id}/van', {
          params: { path: { technician_id: technicianId } },
        }),
      ),
  });

/** What lies on a technician's van; empty: nobody counts it. */
export const useVan = (technicianId: number | null) =>
  useQuery({ ...vanQuery(technicianId ?? 0), enabled: technicianId !== null });

export const partsQuery = queryOptions({
  queryKey: [...stockKey, 'parts'],
  queryFn: () => data(api.GET('/api/v1/parts')),
  staleTime: 5 * 60_000,
});

/** The parts that are known, by name; visits, job types and vans hold their keys. */
export const useParts = () => useQuery(partsQuery);

/** What the part with a key is called. */
export function usePartName(): (code: string) => string {
  const rows = useParts().data;
  return useCallback((code) => rows?.find((row) => row.code === code)?.name ?? code, [rows]);
}

import { keepPreviousData, queryOptions, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback } from 'react';
import { api, data } from '@/api/client';
import type {
  SchemaBookPartsIn,
  SchemaCountBeginIn,
  SchemaFoundIn,
  SchemaLevelIn,
  SchemaPartRecordOut,
  SchemaStockPartIn,
  SchemaSupplierIn,
  SchemaSupplierOut,
} from '@/api/types';

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

/** One part, whole. */
export const usePart = (code: string) =>
  useQuery({
    queryKey: [...stockKey, 'part', code],
    queryFn: () => data(api.GET('/api/v1/parts/{code}', { params: { path: { code } } })),
  });

/** The part that is chosen, if one is. */
export const useChosenPart = (code: string) =>
  useQuery({
    queryKey: [...stockKey, 'part', code],
    queryFn: () => data(api.GET('/api/v1/parts/{code}', { params: { path: { code } } })),
    enabled: code !== '',
  });

/** Where all of a part are, or of one batch. */
export const useWhereabouts = (code: string, batch: string, removed: boolean) =>
  useQuery({
    queryKey: [...stockKey, 'whereabouts', code, batch, removed],
    queryFn: () =>
      data(
        api.GET('/api/v1/parts/{code}/whereabouts', {
          params: { path: { code }, query: { batch, removed } },
        }),
      ),
    placeholderData: keepPreviousData,
  });

/** What is built into a piece of equipment, and what came out again. */
export const useFitted = (assetId: number) =>
  useQuery({
    queryKey: [...stockKey, 'fitted', assetId],
    queryFn: () => data(api.GET('/api/v1/stock/fitted', { params: { query: { asset_id: assetId } } })),
  });

export const useSuppliers = () =>
  useQuery({
    queryKey: [...stockKey, 'suppliers'],
    queryFn: () => data(api.GET('/api/v1/stock/suppliers', { params: { query: { retired: true } } })),
  });

/** Depots and vans. */
export const useStockPlaces = () =>
  useQuery({ queryKey: [...stockKey, 'places'], queryFn: () => data(api.GET('/api/v1/stock/places')) });

/** Movements of a part or at a place, the newest first; the first page. */
export const useMovements = (about: { part?: string; place_id?: number }) =>
  useQuery({
    queryKey: [...stockKey, 'movements', about],
    queryFn: () => data(api.GET('/api/v1/stock/movements', { params: { query: about } })),
  });

export const useStockMatters = () =>
  useQuery({ queryKey: [...stockKey, 'matters'], queryFn: () => data(api.GET('/api/v1/stock/matters')) });

export const useCounts = () =>
  useQuery({ queryKey: [...stockKey, 'counts'], queryFn: () => data(api.GET('/api/v1/stock/counts')) });

export const useCountSheet = (sheetId: number) =>
  useQuery({
    queryKey: [...stockKey, 'count', sheetId],
    queryFn: () =>
      data(api.GET('/api/v1/stock/counts/{sheet_id}', { params: { path: { sheet_id: sheetId } } })),
  });

/** A change of stock; whatever is shown of it, or follows from it, is asked for again. Nobody waits for that: a row that
 * goes with the change would be gone before it is said to have been done. */
export function useStockChange<Asked, Answer>(mutationFn: (asked: Asked) => Promise<Answer>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn,
    onSettled: () => {
      void client.invalidateQueries({ queryKey: stockKey });
      void client.invalidateQueries({ queryKey: ['supply'] });
    },
  });
}

export const useKeepPart = (row: SchemaPartRecordOut | null) =>
  useStockChange((body: SchemaStockPartIn) =>
    data(
      row
        ? api.PUT('/api/v1/parts/{code}', {
            params: { path: { code: row.code } },
            body: { ...body, version: row.version },
          })
        : api.POST('/api/v1/part-records', { body }),
    ),
  );

export const useSetPhoto = (row: SchemaPartRecordOut) =>
  useStockChange((fileId: number | null) =>
    data(
      api.PUT('/api/v1/parts/{code}/photo', {
        params: { path: { code: row.code } },
        body: { version: row.version, file_id: fileId },
      }),
    ),
  );

export const useMergePart = (row: SchemaPartRecordOut) =>
  useStockChange((into: string) =>
    data(
      api.POST('/api/v1/parts/{code}/merge', {
        params: { path: { code: row.code } },
        body: { version: row.version, into },
      }),
    ),
  );

export const useKeepSupplier = (row: SchemaSupplierOut | null) =>
  useStockChange((body: SchemaSupplierIn) =>
    data(
      row
        ? api.PUT('/api/v1/stock/suppliers/{supplier_id}', {
            params: { path: { supplier_id: row.id } },
            body: { ...body, version: row.version },
          })
        : api.POST('/api/v1/stock/suppliers', { body }),
    ),
  );

export const useOpenPlaces = () => useStockChange(() => data(api.POST('/api/v1/stock/places')));

interface AtPlace {
  placeId: number;
  code: string;
}

export const useSetLevel = () =>
  useStockChange(({ placeId, code, ...body }: AtPlace & SchemaLevelIn) =>
    data(
      api.PUT('/api/v1/stock/places/{place_id}/levels/{code}', {
        params: { path: { place_id: placeId, code } },
        body,
      }),
    ),
  );

export const useCountAt = () =>
  useStockChange(
    ({ placeId, code, ...body }: AtPlace & { quantity: number | null; version: number | null }) =>
      data(
        api.PUT('/api/v1/stock/places/{place_id}/count/{code}', {
          params: { path: { place_id: placeId, code } },
          body,
        }),
      ),
  );

/** Book what was moved, thrown away or taken in. */
export const useBook = () =>
  useStockChange((body: SchemaBookPartsIn) => data(api.POST('/api/v1/stock/movements', { body })));

export const useBeginCount = () =>
  useStockChange((body: SchemaCountBeginIn) => data(api.POST('/api/v1/stock/counts', { body })));

export const useEnterFound = (sheetId: number) =>
  useStockChange((found: SchemaFoundIn[]) =>
    data(
      api.PUT('/api/v1/stock/counts/{sheet_id}/found', {
        params: { path: { sheet_id: sheetId } },
        body: { found },
      }),
    ),
  );

export type CountStep = 'finish' | 'book' | 'drop';

export const useCountStep = (sheetId: number) =>
  useStockChange(({ step, version }: { step: CountStep; version: number }) =>
    data(
      api.POST(`/api/v1/stock/counts/{sheet_id}/${step}`, {
        params: { path: { sheet_id: sheetId } },
        body: { version },
      }),
    ),
  );

export const useExplain = (sheetId: number) =>
  useStockChange((body: { version: number; words: Record<string, string> }) =>
    data(
      api.POST('/api/v1/stock/counts/{sheet_id}/explain', { params: { path: { sheet_id: sheetId } }, body }),
    ),
  );

/** What a scanned code may mean. */
export const scan = (code: string) => data(api.GET('/api/v1/stock/scan', { params: { query: { code } } }));

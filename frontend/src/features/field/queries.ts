import { queryOptions, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { api, data } from '@/api/client';
import { onChange } from '@/shared/live';

export const fieldKey = ['field'] as const;
/** Asked also where the browser thinks there is no network, and never forgotten: there may be no second answer today. */
const WITHOUT_SIGNAL = { networkMode: 'always', gcTime: Infinity, retry: false } as const;
/** What lies on the phone itself: not asked of the server. */
export const keptKey = ['kept'] as const;
export const picturesKey = ['pictures waiting'] as const;

/** The own visits of a day; null: of the one that is running. */
export const dayQuery = (day: string | null) =>
  queryOptions({
    queryKey: [...fieldKey, 'day', day],
    queryFn: () => data(api.GET('/api/v1/field/day', { params: { query: day === null ? {} : { day } } })),
    refetchOnWindowFocus: true,
    ...WITHOUT_SIGNAL,
  });
export const ownDayQuery = dayQuery(null);

export const ownVisitQuery = (id: number) =>
  queryOptions({
    queryKey: [...fieldKey, 'visit', id],
    queryFn: () => data(api.GET('/api/v1/field/visits/{visit_id}', { params: { path: { visit_id: id } } })),
    ...WITHOUT_SIGNAL,
  });

/** The own day beside the visits; null: the one that is running. */
export const logQuery = (day: string | null) =>
  queryOptions({
    queryKey: [...fieldKey, 'log', day],
    queryFn: () => data(api.GET('/api/v1/field/log', { params: { query: day === null ? {} : { day } } })),
    ...WITHOUT_SIGNAL,
  });
export const ownLogQuery = logQuery(null);

/** Parts that are in use, what lies on the own van, what may be charged: taken along, to look things up in. */
export const partsQuery = queryOptions({
  queryKey: [...fieldKey, 'parts'],
  queryFn: () => data(api.GET('/api/v1/field/parts')),
  ...WITHOUT_SIGNAL,
});
export const vanQuery = queryOptions({
  queryKey: [...fieldKey, 'van'],
  queryFn: () => data(api.GET('/api/v1/field/van')),
  ...WITHOUT_SIGNAL,
});
export const itemsQuery = queryOptions({
  queryKey: [...fieldKey, 'items'],
  queryFn: () => data(api.GET('/api/v1/field/items')),
  ...WITHOUT_SIGNAL,
});

/** Who has a part free, the nearest to a visit first: asked at the moment, of no use later. */
export const nearQuery = (code: string, visitId: number) =>
  queryOptions({
    queryKey: ['who has', code, visitId],
    queryFn: () =>
      data(
        api.GET('/api/v1/field/parts/{code}/near', {
          params: { path: { code }, query: { visit_id: visitId } },
        }),
      ),
    gcTime: 0,
    retry: false,
  });

export const wayQuery = (id: number) =>
  queryOptions({
    queryKey: [...fieldKey, 'way', id],
    queryFn: () =>
      data(api.GET('/api/v1/field/visits/{visit_id}/way', { params: { path: { visit_id: id } } })),
    staleTime: Infinity,
  });

export function useLiveField() {
  const client = useQueryClient();
  useEffect(
    () =>
      onChange((change) => {
        if (change.topic === 'visit' || change.topic === 'resync')
          void client.invalidateQueries({ queryKey: fieldKey });
      }),
    [client],
  );
}

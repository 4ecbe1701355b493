import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, data } from '@/api/client';
import type { SchemaOffersIn, SchemaTakeIn, SchemaWishIn } from '@/api/types';
import { useFollowing } from '@/shared/following';

/** Windows that can be kept for the call as far as it is typed; asked again when anything on the days changes. */
export function useOffers(asked: SchemaOffersIn | null) {
  useFollowing(['appointments', 'offers'], ['visit', 'company']);
  return useQuery({
    queryKey: ['appointments', 'offers', asked],
    enabled: asked !== null,
    queryFn: ({ signal }) => data(api.POST('/api/v1/appointments/offers', { body: asked!, signal })),
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
    queryKey: ['appointments', 'expected'],
    enabled,
    // Whatever comes of it, the offers themselves say what is wrong.
    queryFn: () => api.POST('/api/v1/appointments/offers/expected').then(() => true),
    refetchInterval: 5 * 60_000,
    retry: false,
  });
}

/** Hours free, promised and expected, by area and day. */
export function useCapacity(first: string, days: number, skill: string) {
  useFollowing(['appointments', 'capacity'], ['visit']);
  return useQuery({
    queryKey: ['appointments', 'capacity', first, days, skill],
    queryFn: () =>
      data(api.GET('/api/v1/appointments/capacity', { params: { query: { first, days, skill } } })),
    placeholderData: keepPreviousData,
  });
}

/** The work behind the figures of one day in one area, or of the whole company. */
export function useBehind(day: string, areaId: number | null, skill: string) {
  return useQuery({
    queryKey: ['appointments', 'capacity', 'behind', day, areaId, skill],
    queryFn: () =>
      data(
        api.GET('/api/v1/appointments/capacity/{day}', {
          params: { path: { day }, query: { area_id: areaId, skill } },
        }),
      ),
  });
}

/** Windows that can be kept for a visit that waits in the backlog; asked again when anything on the days changes. */
export function useVisitOffers(visitId: number, wish: SchemaWishIn, enabled: boolean) {
  useFollowing(['appointments', 'offers'], ['visit', 'company']);
  return useQuery({
    queryKey: ['appointments', 'offers', 'visit', visitId, wish],
    enabled,
    queryFn: ({ signal }) =>
      data(
        api.POST('/api/v1/visits/{visit_id}/offers', {
          params: { path: { visit_id: visitId } },
          body: { wish },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    staleTime: 20_000,
  });
}

/** Promise a window: it is checked once more against the days as they are then. */
export function usePromiseVisit(visitId: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: SchemaTakeIn) =>
      data(api.POST('/api/v1/visits/{visit_id}/promise', { params: { path: { visit_id: visitId } }, body })),
    onSettled: () => client.invalidateQueries({ queryKey: ['appointments', 'offers'] }),
  });
}

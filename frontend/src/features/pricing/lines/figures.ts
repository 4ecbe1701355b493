import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query';
import { api, data } from '@/api/client';
import type { SchemaSumsOut } from '@/api/types';
import { isWhole, setIn, type TypedSet } from './model';

interface Asked {
  sets: TypedSet[];
  customerId: number | null;
  jobTypeId: number | null;
  currency: string;
}

/**
 * What lines come to, with each keystroke: the server counts, as it will when they are kept. While something half typed
 * stands there, the last figures stay, and `isOld` says so.
 */
export function useFigures({ sets, customerId, jobTypeId, currency }: Asked) {
  const whole = sets.length > 0 && sets.every((set) => isWhole(set, currency));
  const body = {
    customer_id: customerId,
    job_type_id: jobTypeId,
    sets: whole ? sets.map((set) => setIn(set, currency)) : [],
  };
  const found = useQuery({
    queryKey: ['figures', body],
    enabled: whole,
    queryFn: ({ signal }) => data(api.POST('/api/v1/figures', { body, signal })),
    placeholderData: keepPreviousData,
    staleTime: 60_000,
    gcTime: 60_000,
    retry: false,
  });
  const sums: SchemaSumsOut[] = found.data?.sets ?? [];
  return { sums, isOld: !whole || found.isPlaceholderData, error: whole ? found.error : null };
}

/** Unit prices or efforts at which a labour-hour brings what is wanted, by key of the line. */
export function useReach() {
  return useMutation({
    mutationFn: ({ set, by, ...asked }: Omit<Asked, 'sets'> & { set: TypedSet; by: 'price' | 'effort' }) =>
      data(
        api.POST('/api/v1/figures/reach', {
          body: {
            customer_id: asked.customerId,
            job_type_id: asked.jobTypeId,
            lines: setIn(set, asked.currency),
            by,
          },
        }),
      ),
  });
}

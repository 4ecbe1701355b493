import { keepPreviousData, useInfiniteQuery, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, data } from '@/api/client';
import type {
  SchemaAskPartIn,
  SchemaCameOutIn,
  SchemaLendIn,
  SchemaLineIn,
  SchemaPickIn,
  SchemaReceiveIn,
  SchemaSettleIn,
  SchemaTakeWayIn,
} from '@/api/types';
import { useStockChange } from '@/features/stock';
import { nextOf } from '@/shared/pages';
import type { StockSearch } from './search';

const KEY = ['supply'] as const;

/** What waits in each part of supply. */
export const useSupplyCounts = () =>
  useQuery({ queryKey: [...KEY, 'counts'], queryFn: () => data(api.GET('/api/v1/supply/counts')) });

/** What the list is filtered by, as the server takes it. */
export const filtersOf = ({ text, supplier, only, sort }: StockSearch) => ({
  text: text ?? '',
  only: only ?? ('' as const),
  sort: sort ?? ('name' as const),
  ...(supplier ? { supplier_id: supplier } : {}),
});

/** Parts with what is on hand, spoken for, free and coming; page by page. */
export const usePartList = (search: StockSearch) =>
  useInfiniteQuery({
    queryKey: [...KEY, 'parts', filtersOf(search)],
    queryFn: ({ pageParam }) =>
      data(
        api.GET('/api/v1/part-list', {
          params: { query: { ...filtersOf(search), ...(pageParam ? { cursor: pageParam } : {}) } },
        }),
      ),
    initialPageParam: '',
    getNextPageParam: nextOf,
    placeholderData: keepPreviousData,
  });

/** A part in every place. */
export const useLevels = (code: string) =>
  useQuery({
    queryKey: [...KEY, 'levels', code],
    queryFn: () => data(api.GET('/api/v1/parts/{code}/levels', { params: { path: { code } } })),
  });

/** A depot or a van, against what the next days take. */
export const usePlace = (placeId: number) =>
  useQuery({
    queryKey: [...KEY, 'place', placeId],
    queryFn: () =>
      data(api.GET('/api/v1/supply/places/{place_id}', { params: { path: { place_id: placeId } } })),
  });

export const useThresholds = (placeId: number, open: boolean) =>
  useQuery({
    queryKey: [...KEY, 'thresholds', placeId],
    queryFn: () =>
      data(
        api.GET('/api/v1/supply/places/{place_id}/thresholds', { params: { path: { place_id: placeId } } }),
      ),
    enabled: open,
  });

/** A day's work held against the vans. */
export const useTonight = (day: string) =>
  useQuery({
    queryKey: [...KEY, 'tonight', day],
    queryFn: () => data(api.GET('/api/v1/supply/tonight', { params: { query: { day } } })),
    placeholderData: keepPreviousData,
  });

/** The ways to get a part that a visit lacks. */
export const useWays = (visitId: number, part: string) =>
  useQuery({
    queryKey: [...KEY, 'ways', visitId, part],
    queryFn: () => data(api.GET('/api/v1/supply/ways', { params: { query: { visit_id: visitId, part } } })),
    retry: false,
  });

export const usePurchases = (state: '' | 'proposal' | 'going' | 'ended') =>
  useQuery({
    queryKey: [...KEY, 'purchases', state],
    queryFn: () => data(api.GET('/api/v1/supply/purchases', { params: { query: { state } } })),
    placeholderData: keepPreviousData,
  });

export const usePurchase = (orderId: number) =>
  useQuery({
    queryKey: [...KEY, 'purchase', orderId],
    queryFn: () =>
      data(api.GET('/api/v1/supply/purchases/{order_id}', { params: { path: { order_id: orderId } } })),
  });

export const usePartRequests = (ended: boolean) =>
  useQuery({
    queryKey: [...KEY, 'requests', ended],
    queryFn: () => data(api.GET('/api/v1/part-requests', { params: { query: { ended } } })),
  });

/** Who has what is asked for, the nearest first. */
export const useNear = (requestId: number) =>
  useQuery({
    queryKey: [...KEY, 'near', requestId],
    queryFn: () =>
      data(
        api.GET('/api/v1/part-requests/{request_id}/near', { params: { path: { request_id: requestId } } }),
      ),
  });

export const useClaims = (ended: boolean) =>
  useQuery({
    queryKey: [...KEY, 'claims', ended],
    queryFn: () => data(api.GET('/api/v1/supply/claims', { params: { query: { ended } } })),
  });

export const useLoans = (returned: boolean) =>
  useQuery({
    queryKey: [...KEY, 'loans', returned],
    queryFn: () => data(api.GET('/api/v1/supply/loans', { params: { query: { returned } } })),
  });

// --- changes ---------------------------------------------------------------------------------------------

/** Take a way: the board changes with it. */
export function useTakeWay() {
  const client = useQueryClient();
  return useStockChange(async (body: SchemaTakeWayIn) => {
    const taken = await data(api.POST('/api/v1/supply/ways', { body }));
    for (const key of [['schedule'], ['orders'], ['lanes']]) void client.invalidateQueries({ queryKey: key });
    return taken;
  });
}

export const usePick = () =>
  useStockChange((body: SchemaPickIn) => data(api.POST('/api/v1/supply/pick', { body })));

export const useLeave = (placeId: number) =>
  useStockChange((codes: string[]) =>
    data(
      api.POST('/api/v1/supply/places/{place_id}/leave', {
        params: { path: { place_id: placeId } },
        body: { codes },
      }),
    ),
  );

export const useAcceptThresholds = (placeId: number) =>
  useStockChange((codes: string[]) =>
    data(
      api.POST('/api/v1/supply/places/{place_id}/thresholds', {
        params: { path: { place_id: placeId } },
        body: { codes },
      }),
    ),
  );

export const usePropose = () => useStockChange(() => data(api.POST('/api/v1/supply/purchases/propose')));

export const useNewProposal = () =>
  useStockChange((body: { supplier_id: number; place_id: number | null; lines: SchemaLineIn[] }) =>
    data(api.POST('/api/v1/supply/purchases', { body })),
  );

const at = (orderId: number) => ({ params: { path: { order_id: orderId } } });

export const usePutLines = (orderId: number) =>
  useStockChange((body: { version: number; lines: SchemaLineIn[]; note: string }) =>
    data(api.PUT('/api/v1/supply/purchases/{order_id}/lines', { ...at(orderId), body })),
  );

export const useSendPurchase = (orderId: number) =>
  useStockChange((body: { version: number; expected_on: string | null }) =>
    data(api.POST('/api/v1/supply/purchases/{order_id}/send', { ...at(orderId), body })),
  );

export const useExpect = (orderId: number) =>
  useStockChange((body: { version: number; expected_on: string }) =>
    data(api.POST('/api/v1/supply/purchases/{order_id}/expect', { ...at(orderId), body })),
  );

export function useReceive(orderId: number) {
  const client = useQueryClient();
  return useStockChange(async (body: SchemaReceiveIn) => {
    const order = await data(
      api.POST('/api/v1/supply/purchases/{order_id}/receive', { ...at(orderId), body }),
    );
    // What is typed next is about what has come now.
    client.setQueryData([...KEY, 'purchase', orderId], order);
    return order;
  });
}

export const useCallOff = (orderId: number) =>
  useStockChange((body: { version: number; because: string }) =>
    data(api.POST('/api/v1/supply/purchases/{order_id}/call-off', { ...at(orderId), body })),
  );

export const useAsk = () =>
  useStockChange((body: SchemaAskPartIn) => data(api.POST('/api/v1/part-requests', { body })));

interface Answer {
  id: number;
  version: number;
}

const asked = (id: number) => ({ params: { path: { request_id: id } } });

export const usePromise = () =>
  useStockChange(({ id, ...body }: Answer & { place_id: number; at: number }) =>
    data(api.POST('/api/v1/part-requests/{request_id}/promise', { ...asked(id), body })),
  );

export const useOrderFor = () =>
  useStockChange(({ id, ...body }: Answer) =>
    data(api.POST('/api/v1/part-requests/{request_id}/order', { ...asked(id), body })),
  );

export const useHandOver = () =>
  useStockChange(({ id, ...body }: Answer & { serials: string[]; batch: string }) =>
    data(api.POST('/api/v1/part-requests/{request_id}/hand-over', { ...asked(id), body })),
  );

export const useRefuse = () =>
  useStockChange(({ id, ...body }: Answer & { because: string }) =>
    data(api.POST('/api/v1/part-requests/{request_id}/refuse', { ...asked(id), body })),
  );

export const useTakeBack = () =>
  useStockChange((body: SchemaCameOutIn) => data(api.POST('/api/v1/supply/returns', { body })));

export const useSendClaim = () =>
  useStockChange(({ id, ...body }: Answer) =>
    data(api.POST('/api/v1/supply/claims/{claim_id}/send', { params: { path: { claim_id: id } }, body })),
  );

export const useSettle = () =>
  useStockChange(({ id, ...body }: { id: number } & SchemaSettleIn) =>
    data(api.POST('/api/v1/supply/claims/{claim_id}/settle', { params: { path: { claim_id: id } }, body })),
  );

const loan = (id: number) => ({ params: { path: { loan_id: id } } });

export const useLend = () =>
  useStockChange((body: SchemaLendIn) => data(api.POST('/api/v1/supply/loans', { body })));

export const useBringBack = () =>
  useStockChange(({ id, ...body }: Answer & { place_id: number | null }) =>
    data(api.POST('/api/v1/supply/loans/{loan_id}/back', { ...loan(id), body })),
  );

export const useExtend = () =>
  useStockChange(({ id, ...body }: Answer & { due: string }) =>
    data(api.POST('/api/v1/supply/loans/{loan_id}/due', { ...loan(id), body })),
  );

export const useFetchBack = () =>
  useStockChange(({ id, ...body }: Answer) =>
    data(api.POST('/api/v1/supply/loans/{loan_id}/fetch', { ...loan(id), body })),
  );

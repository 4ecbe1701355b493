import {
  keepPreviousData,
  useInfiniteQuery,
  useMutation,
  useQuery,
  useQueryClient,
} from '@tanstack/react-query';
import { useEffect } from 'react';
import { nextOf } from '@/shared/pages';
import { api, data } from '@/api/client';
import type {
  SchemaFiltersIn,
  SchemaLinkIn,
  SchemaOrderChangeIn,
  SchemaOrderDetailOut,
  SchemaOrderLinesIn,
  SchemaVisitAddIn,
  SchemaVisitFieldsIn,
  SchemaWorkIn,
} from '@/api/types';
import { onChange } from '@/shared/live';

export function useFollowOrders() {
  const client = useQueryClient();
  useEffect(
    () =>
      onChange((change) => {
        if (['visit', 'resync', 'customer'].includes(change.topic))
          void client.invalidateQueries({ queryKey: ['orders'], predicate: isShort });
      }),
    [client],
  );
}

/** Somebody who has read far down a list keeps what is there: all of it anew for every change would never end. */
const isShort = ({ state }: { state: { data: unknown } }) =>
  ((state.data as { pages?: unknown[] } | undefined)?.pages?.length ?? 0) <= 5;

/** The list, page after page. */
export function useOrders(filters: SchemaFiltersIn, sort: string) {
  useFollowOrders();
  return useInfiniteQuery({
    queryKey: ['orders', 'list', filters, sort],
    queryFn: ({ pageParam }) =>
      data(api.POST('/api/v1/orders/list', { body: { filters, sort, cursor: pageParam } })),
    initialPageParam: '',
    getNextPageParam: nextOf,
    placeholderData: keepPreviousData,
  });
}

export function useOrder(id: number) {
  useFollowOrders();
  return useQuery({
    queryKey: ['orders', 'one', id],
    queryFn: () => data(api.GET('/api/v1/orders/{order_id}', { params: { path: { order_id: id } } })),
  });
}

/** What happened to an order, the newest first, page by page. */
export function useTimeline(id: number) {
  return useInfiniteQuery({
    queryKey: ['orders', 'one', id, 'timeline'],
    queryFn: ({ pageParam: cursor }) =>
      data(
        api.GET('/api/v1/orders/{order_id}/timeline', {
          params: { path: { order_id: id }, query: { cursor } },
        }),
      ),
    initialPageParam: '',
    getNextPageParam: nextOf,
  });
}

/** A change that answers with the whole order, which is shown at once. */
function useOrderChange<Body>(id: number, send: (body: Body) => Promise<SchemaOrderDetailOut>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: send,
    onSuccess: (order) => client.setQueryData(['orders', 'one', id], order),
    onSettled: () => client.invalidateQueries({ queryKey: ['orders'] }),
  });
}

export function useChangeOrder(id: number) {
  const params = { path: { order_id: id } };
  return useOrderChange(id, (body: SchemaOrderChangeIn) =>
    data(api.PUT('/api/v1/orders/{order_id}', { params, body })),
  );
}

export function useRestore(id: number) {
  const params = { path: { order_id: id } };
  return useOrderChange(id, (body: { version: number; field: string }) =>
    data(api.POST('/api/v1/orders/{order_id}/restore', { params, body })),
  );
}

/** Tasks, checklist and lines of this order, instead of its job type's. */
export function useChangeWork(id: number) {
  const params = { path: { order_id: id } };
  return useOrderChange(id, (body: SchemaWorkIn) =>
    data(api.PUT('/api/v1/orders/{order_id}/work', { params, body })),
  );
}

/** Other lines of this order, with its discounts. */
export function useSetLines(id: number) {
  const params = { path: { order_id: id } };
  return useOrderChange(id, (body: SchemaOrderLinesIn) =>
    data(api.PUT('/api/v1/orders/{order_id}/lines', { params, body })),
  );
}

export function useResetLines(id: number) {
  const params = { path: { order_id: id } };
  return useOrderChange(id, (body: { version: number }) =>
    data(api.POST('/api/v1/orders/{order_id}/lines/reset', { params, body })),
  );
}

/** What a visit is for, and when it is due; undone on the board like any change of it. */
export function useChangeVisit(id: number) {
  return useOrderChange(id, async ({ visitId, body }: { visitId: number; body: SchemaVisitFieldsIn }) => {
    await data(
      api.PUT('/api/v1/visits/{visit_id}/fields', { params: { path: { visit_id: visitId } }, body }),
    );
    return data(api.GET('/api/v1/orders/{order_id}', { params: { path: { order_id: id } } }));
  });
}

export function useAddVisit(id: number) {
  const params = { path: { order_id: id } };
  return useOrderChange(id, (body: SchemaVisitAddIn) =>
    data(api.POST('/api/v1/orders/{order_id}/visits', { params, body })),
  );
}

export function useRemoveVisit(id: number) {
  return useOrderChange(id, ({ visitId, version }: { visitId: number; version: number }) =>
    data(
      api.POST('/api/v1/orders/{order_id}/visits/{visit_id}/remove', {
        params: { path: { order_id: id, visit_id: visitId } },
        body: { version },
      }),
    ),
  );
}

export function useSpread(id: number) {
  return useOrderChange(id, ({ visitId, ...body }: { visitId: number; version: number; days: number }) =>
    data(
      api.POST('/api/v1/orders/{order_id}/visits/{visit_id}/spread', {
        params: { path: { order_id: id, visit_id: visitId } },
        body,
      }),
    ),
  );
}

export function useLink(id: number) {
  const params = { path: { order_id: id } };
  return useOrderChange(id, (body: SchemaLinkIn) =>
    data(api.POST('/api/v1/orders/{order_id}/links', { params, body })),
  );
}

export function useUnlink(id: number) {
  return useOrderChange(id, ({ linkId, version }: { linkId: number; version: number }) =>
    data(
      api.POST('/api/v1/orders/{order_id}/links/{link_id}/remove', {
        params: { path: { order_id: id, link_id: linkId } },
        body: { version },
      }),
    ),
  );
}

/** What came second comes first. */
export function useTurnLink(id: number) {
  return useOrderChange(id, ({ linkId, version }: { linkId: number; version: number }) =>
    data(
      api.POST('/api/v1/orders/{order_id}/links/{link_id}/turn', {
        params: { path: { order_id: id, link_id: linkId } },
        body: { version },
      }),
    ),
  );
}

export function useNoteOnOrder(id: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (text: string) =>
      data(
        api.POST('/api/v1/orders/{order_id}/notes', { params: { path: { order_id: id } }, body: { text } }),
      ),
    onSettled: () => client.invalidateQueries({ queryKey: ['orders', 'one', id] }),
  });
}

export type ViewPage = 'orders' | 'backlog' | 'quotes';

export function useViews(page: ViewPage) {
  return useQuery({
    queryKey: ['orders', 'views', page],
    queryFn: () => data(api.GET('/api/v1/orders/views', { params: { query: { page } } })),
  });
}

export function useKeepView() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: { page: ViewPage; name: string; shared: boolean; query: Record<string, unknown> }) =>
      data(api.POST('/api/v1/orders/views', { body })),
    onSettled: () => client.invalidateQueries({ queryKey: ['orders', 'views'] }),
  });
}

export function useRemoveView() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: number) =>
      data(api.DELETE('/api/v1/orders/views/{view_id}', { params: { path: { view_id: id } } })),
    onSettled: () => client.invalidateQueries({ queryKey: ['orders', 'views'] }),
  });
}

/** A planning run for the visits of a sequence; the planner beside the board shows what comes out. */
export function usePlanSequence() {
  return useMutation({
    mutationFn: (body: { day: string; visitIds: number[] }) =>
      data(
        api.POST('/api/v1/runs', {
          body: { kind: 'sequence', day: body.day, days: 10, visit_ids: body.visitIds, seconds: 3 } as never,
        }),
      ),
  });
}

import { queryOptions, useQuery } from '@tanstack/react-query';
import { api, data } from '@/api/client';

export const reportsKey = ['reports'] as const;

/** What was recorded at a visit so far. */
export const useVisitReport = (visitId: number) =>
  useQuery({
    queryKey: [...reportsKey, 'visit', visitId],
    queryFn: () =>
      data(api.GET('/api/v1/reports/of-visit/{visit_id}', { params: { path: { visit_id: visitId } } })),
  });

/** The reports of all visits of an order. */
export const useOrderReports = (orderId: number) =>
  useQuery({
    queryKey: [...reportsKey, 'order', orderId],
    queryFn: () =>
      data(api.GET('/api/v1/reports/of-order/{order_id}', { params: { path: { order_id: orderId } } })),
  });

export const sendingKey = (visitId: number) => [...reportsKey, 'sending', visitId] as const;

/** To whom the report of a visit was sent, and who else might want it. */
export const sendingQuery = (visitId: number) =>
  queryOptions({
    queryKey: sendingKey(visitId),
    queryFn: () =>
      data(
        api.GET('/api/v1/reports/of-visit/{visit_id}/sending', { params: { path: { visit_id: visitId } } }),
      ),
  });

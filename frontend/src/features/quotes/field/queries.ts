import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, data } from '@/api/client';
import type { SchemaQuoteChangeIn, SchemaQuoteOut } from '@/api/types';

const KEY = ['field', 'quotes'] as const;

export const useQuotesAtVisit = (visitId: number) =>
  useQuery({
    queryKey: [...KEY, 'at', visitId],
    queryFn: () =>
      data(api.GET('/api/v1/field/visits/{visit_id}/quotes', { params: { path: { visit_id: visitId } } })),
  });

export const useMakeAtVisit = (visitId: number) =>
  useMutation({
    mutationFn: () =>
      data(
        api.POST('/api/v1/field/visits/{visit_id}/quotes', {
          params: { path: { visit_id: visitId } },
          body: { title: '', scope: '' },
        }),
      ),
  });

export const useFieldQuote = (id: number) =>
  useQuery({
    queryKey: [...KEY, id],
    queryFn: () => data(api.GET('/api/v1/field/quotes/{quote_id}', { params: { path: { quote_id: id } } })),
  });

function useFieldChange<Body>(id: number, send: (body: Body) => Promise<SchemaQuoteOut>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: send,
    onSuccess: (quote) => client.setQueryData([...KEY, id], quote),
    onSettled: () => client.invalidateQueries({ queryKey: KEY }),
  });
}

const at = (id: number) => ({ path: { quote_id: id } });

export const useSaveInField = (id: number) =>
  useFieldChange(id, (body: SchemaQuoteChangeIn) =>
    data(api.PUT('/api/v1/field/quotes/{quote_id}', { params: at(id), body })),
  );

export const useShowInField = (id: number) =>
  useFieldChange(id, (version: number) =>
    data(
      api.POST('/api/v1/field/quotes/{quote_id}/show', {
        params: at(id),
        body: { version, how: 'shown', email: '' },
      }),
    ),
  );

export const useReviseInField = (id: number) =>
  useFieldChange(id, (version: number) =>
    data(api.POST('/api/v1/field/quotes/{quote_id}/revise', { params: at(id), body: { version } })),
  );

import {
  keepPreviousData,
  useInfiniteQuery,
  useMutation,
  useQuery,
  useQueryClient,
} from '@tanstack/react-query';
import { useEffect } from 'react';
import { api, data } from '@/api/client';
import type {
  SchemaOnPaperIn,
  SchemaQuoteChangeIn,
  SchemaQuoteFiltersIn,
  SchemaQuoteNewIn,
  SchemaQuoteOut,
  SchemaQuoteSendIn,
  SchemaSurveyIn,
  SchemaWithdrawIn,
} from '@/api/types';
import { onChange } from '@/shared/live';
import { nextOf } from '@/shared/pages';

const KEY = ['quotes'] as const;
const FOLLOWED = ['quote', 'reminder', 'visit', 'resync', 'pricing'];

function useFollowQuotes() {
  const client = useQueryClient();
  useEffect(
    () =>
      onChange((change) => {
        if (FOLLOWED.includes(change.topic)) void client.invalidateQueries({ queryKey: KEY });
      }),
    [client],
  );
}

/** The list, page after page; sums per state come with the first. */
export function useQuotes(filters: SchemaQuoteFiltersIn, sort: string) {
  useFollowQuotes();
  return useInfiniteQuery({
    queryKey: [...KEY, 'list', filters, sort],
    queryFn: ({ pageParam }) =>
      data(api.POST('/api/v1/quotes/list', { body: { filters, sort, cursor: pageParam } })),
    initialPageParam: '',
    getNextPageParam: nextOf,
    placeholderData: keepPreviousData,
  });
}

export function useQuote(id: number) {
  useFollowQuotes();
  return useQuery({
    queryKey: [...KEY, 'one', id],
    queryFn: () => data(api.GET('/api/v1/quotes/{quote_id}', { params: { path: { quote_id: id } } })),
  });
}

/** What happened to a quote, the newest first, page by page. */
export const useQuoteTimeline = (id: number) =>
  useInfiniteQuery({
    queryKey: [...KEY, 'one', id, 'timeline'],
    queryFn: ({ pageParam: cursor }) =>
      data(
        api.GET('/api/v1/quotes/{quote_id}/timeline', {
          params: { path: { quote_id: id }, query: { cursor } },
        }),
      ),
    initialPageParam: '',
    getNextPageParam: nextOf,
  });

export function useNoteOnQuote(id: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (text: string) =>
      data(
        api.POST('/api/v1/quotes/{quote_id}/notes', { params: { path: { quote_id: id } }, body: { text } }),
      ),
    onSettled: () => client.invalidateQueries({ queryKey: [...KEY, 'one', id] }),
  });
}

export function useMakeQuote() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: SchemaQuoteNewIn) => data(api.POST('/api/v1/quotes', { body })),
    onSuccess: (quote) => client.setQueryData([...KEY, 'one', quote.id], quote),
  });
}

/** A change that answers with the whole quote, which is shown at once. */
function useQuoteChange<Body>(id: number, send: (body: Body) => Promise<SchemaQuoteOut>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: send,
    onSuccess: (quote) => client.setQueryData([...KEY, 'one', id], quote),
    onSettled: () => client.invalidateQueries({ queryKey: KEY }),
  });
}

const at = (id: number) => ({ path: { quote_id: id } });

export const useChangeQuote = (id: number) =>
  useQuoteChange(id, (body: SchemaQuoteChangeIn) =>
    data(api.PUT('/api/v1/quotes/{quote_id}', { params: at(id), body })),
  );

export const useSendQuote = (id: number) =>
  useQuoteChange(id, (body: SchemaQuoteSendIn) =>
    data(api.POST('/api/v1/quotes/{quote_id}/send', { params: at(id), body })),
  );

export const useWithdraw = (id: number) =>
  useQuoteChange(id, (body: SchemaWithdrawIn) =>
    data(api.POST('/api/v1/quotes/{quote_id}/withdraw', { params: at(id), body })),
  );

export const useApproveOnPaper = (id: number) =>
  useQuoteChange(id, (body: SchemaOnPaperIn) =>
    data(api.POST('/api/v1/quotes/{quote_id}/approve', { params: at(id), body })),
  );

export const useAskForSurvey = (id: number) =>
  useQuoteChange(id, (body: SchemaSurveyIn) =>
    data(api.POST('/api/v1/quotes/{quote_id}/surveys', { params: at(id), body })),
  );

export const useAnswerQuestion = (id: number) =>
  useQuoteChange(id, ({ questionId, text }: { questionId: number; text: string }) =>
    data(
      api.POST('/api/v1/quotes/{quote_id}/questions/{question_id}', {
        params: { path: { quote_id: id, question_id: questionId } },
        body: { text },
      }),
    ),
  );

export type SimpleStep = 'revise' | 'revoke' | 'agree' | 'order';

/** Steps that need no more than the version that was seen. */
export const useStep = (id: number) =>
  useQuoteChange(id, ({ step, version }: { step: SimpleStep; version: number }) => {
    const asked = { params: at(id), body: { version } };
    if (step === 'revise') return data(api.POST('/api/v1/quotes/{quote_id}/revise', asked));
    if (step === 'revoke') return data(api.POST('/api/v1/quotes/{quote_id}/revoke', asked));
    if (step === 'agree') return data(api.POST('/api/v1/quotes/{quote_id}/agree', asked));
    return data(api.POST('/api/v1/quotes/{quote_id}/order', asked));
  });

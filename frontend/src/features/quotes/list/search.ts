import { z } from 'zod';
import type { SchemaQuoteFiltersIn } from '@/api/types';
import { STATES } from '../model';

/** What the address of the list says. */
export const quotesSearch = z.object({
  text: z.string().optional().catch(undefined),
  states: z.array(z.enum(STATES)).optional().catch(undefined),
  author: z.number().optional().catch(undefined),
  waits: z.enum(['survey', 'question', 'reminder']).optional().catch(undefined),
  sort: z.string().optional().catch(undefined),
  from: z.string().optional().catch(undefined),
  until: z.string().optional().catch(undefined),
  as: z.enum(['list', 'columns']).optional().catch(undefined),
});
export type QuotesSearch = z.infer<typeof quotesSearch>;

/** What a new quote begins with. */
export const newQuoteSearch = z.object({
  customer: z.number().optional().catch(undefined),
  site: z.number().optional().catch(undefined),
  request: z.number().optional().catch(undefined),
  order: z.number().optional().catch(undefined),
  asset: z.number().optional().catch(undefined),
});
export type NewQuoteSearch = z.infer<typeof newQuoteSearch>;

export const toFilters = (search: QuotesSearch): SchemaQuoteFiltersIn => ({
  text: search.text ?? '',
  states: search.states ?? [],
  author_id: search.author ?? null,
  waits: search.waits ?? '',
  made_from: search.from ?? null,
  made_until: search.until ?? null,
});

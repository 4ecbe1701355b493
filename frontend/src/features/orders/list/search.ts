import { z } from 'zod';
import type { SchemaFiltersIn } from '@/api/types';

const words = z.array(z.string()).optional().catch(undefined);
const numbers = z.array(z.number()).optional().catch(undefined);
const day = z
  .string()
  .regex(/^\d{4}-\d{2}-\d{2}$/)
  .optional()
  .catch(undefined);

/** What of the list lives in the address: filters, sorting, columns. A link to it shows the same. */
export const ordersSearch = z.object({
  /** What they come to by tag is shown. */
  amounts: z.boolean().optional().catch(undefined),
  text: z.string().max(200).optional().catch(undefined),
  states: words,
  jobs: numbers,
  areas: numbers,
  priorities: numbers,
  tags: words,
  billing: z.string().optional().catch(undefined),
  source: z.string().optional().catch(undefined),
  trouble: z.string().optional().catch(undefined),
  technician: z.number().optional().catch(undefined),
  madeFrom: day,
  madeUntil: day,
  promisedFrom: day,
  promisedUntil: day,
  extra: z.record(z.string(), z.unknown()).optional().catch(undefined),
  sort: z.string().optional().catch(undefined),
  columns: words,
});
export type OrdersSearch = z.infer<typeof ordersSearch>;

export const COLUMNS = [
  'number',
  'state',
  'title',
  'customer',
  'site',
  'promise',
  'technicians',
  'planned',
  'priority',
  'area',
  'made',
];

export function toFilters(search: OrdersSearch): SchemaFiltersIn {
  return {
    text: search.text ?? '',
    states: search.states ?? [],
    job_type_ids: search.jobs ?? [],
    area_ids: search.areas ?? [],
    priorities: search.priorities ?? [],
    tags: search.tags ?? [],
    billing: search.billing ?? '',
    source: search.source ?? '',
    trouble: search.trouble ?? '',
    technician_id: search.technician ?? null,
    customer_id: null,
    site_id: null,
    made_from: search.madeFrom ?? null,
    made_until: search.madeUntil ?? null,
    promised_from: search.promisedFrom ?? null,
    promised_until: search.promisedUntil ?? null,
    extra: search.extra ?? {},
  };
}

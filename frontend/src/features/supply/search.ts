import { z } from 'zod';

/** What the address of the list of parts says. */
export const stockSearch = z.object({
  text: z.string().optional().catch(undefined),
  supplier: z.number().optional().catch(undefined),
  only: z
    .enum(['below', 'untidy', 'hazardous', 'oversized', 'tracked', 'retired'])
    .optional()
    .catch(undefined),
  sort: z.enum(['name', 'number', 'supplier']).optional().catch(undefined),
});
export type StockSearch = z.infer<typeof stockSearch>;

/** Of which day the vans are looked at. */
export const tonightSearch = z.object({
  day: z
    .string()
    .regex(/^\d{4}-\d{2}-\d{2}$/)
    .optional()
    .catch(undefined),
});

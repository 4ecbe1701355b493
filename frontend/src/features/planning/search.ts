import { z } from 'zod';

/** What of the board lives in the address: the day, the visit looked at, the zoom, the backlog's search text. */
export const boardSearch = z.object({
  day: z
    .string()
    .regex(/^\d{4}-\d{2}-\d{2}$/)
    .optional()
    .catch(undefined),
  visit: z.number().int().positive().optional().catch(undefined),
  zoom: z
    .union([z.literal(1), z.literal(2), z.literal(3)])
    .optional()
    .catch(undefined),
  /** The planner beside the board: a run's number, or 0 to ask for a new one. */
  run: z.number().int().nonnegative().optional().catch(undefined),
  /** Whose day the planner is asked about. */
  who: z.number().int().positive().optional().catch(undefined),
  text: z.string().max(100).optional().catch(undefined),
});
export type BoardSearch = z.infer<typeof boardSearch>;

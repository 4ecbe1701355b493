import { z } from 'zod';

/** Where somebody comes from who is not in yet, and why that brought nobody in. */
export const signInSearch = z.object({
  from: z.string().optional().catch(undefined),
  error: z.string().optional().catch(undefined),
});

export type SignInSearch = z.infer<typeof signInSearch>;

import { z } from 'zod';

const id = z.coerce.number().int().positive().optional().catch(undefined);

/** A request to work on, or a customer (and site) to begin with. */
export const intakeSearch = z.object({ request: id, customer: id, site: id });

/** Which requests are listed, and the one that is open. */
export const requestsSearch = z.object({
  state: z.enum(['new', 'quoted', 'ordered', 'closed']).optional().catch(undefined),
  id: z.coerce.number().int().positive().optional().catch(undefined),
});

/** Whom a one-off job is for, where that is known. */
export const oneOffSearch = z.object({ customer: id, site: id, asset: id });

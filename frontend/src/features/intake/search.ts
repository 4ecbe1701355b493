import { z } from 'zod';

const id = z.coerce.number().int().positive().optional().catch(undefined);

/** A request to work on, or a customer (and site) to begin with. */
export const intakeSearch = z.object({ request: id, customer: id, site: id });

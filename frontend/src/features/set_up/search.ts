import { z } from 'zod';

/** Which technician is open. */
export const peopleSearch = z.object({
  person: z.coerce.number().int().positive().optional().catch(undefined),
});

export type PeopleSearch = z.infer<typeof peopleSearch>;

// What is typed in forms about parts, and what it must be.

import { z } from 'zod';

export const quantity = z
  .string()
  .trim()
  .regex(/^[1-9]\d{0,5}$/, 'A number')
  .transform(Number);

export const siteOf = z.object({ siteId: z.number(), assetId: z.number().nullable() });

/** Serial numbers with spaces or commas between. */
export const serialsOf = (text: string) => text.split(/[\s,;]+/).filter(Boolean);

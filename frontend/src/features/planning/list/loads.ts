// Loads of weeks, put together from parts of some technicians each.

import type { SchemaDayLoadOut, SchemaLoadOut } from '@/api/types';

export interface Loads {
  lanes: SchemaLoadOut[];
  /** Everybody is there: a sum says something. */
  complete: boolean;
  error: unknown;
  retry: () => void;
}

interface Part {
  data: SchemaLoadOut[] | undefined;
  error: unknown;
  refetch: () => unknown;
}

export const together = (parts: Part[]): Loads => ({
  lanes: parts.flatMap((part) => part.data ?? []),
  complete: parts.length > 0 && parts.every((part) => part.data),
  error: parts.find((part) => part.error)?.error ?? null,
  retry: () => parts.forEach((part) => void part.refetch()),
});

/** Everybody together, by day. */
export function totalsOf(days: string[], lanes: SchemaLoadOut[]): SchemaDayLoadOut[] {
  return days.map((date, index) => {
    const rows = lanes.map((lane) => lane.days[index]!);
    const sum = (name: 'shift' | 'work' | 'drive' | 'overtime' | 'visits') =>
      rows.reduce((all, row) => all + row[name], 0);
    const [shift, work, drive] = [sum('shift'), sum('work'), sum('drive')];
    const share = shift ? (work + drive) / shift : Number(work + drive > 0);
    return { date, shift, work, drive, overtime: sum('overtime'), visits: sum('visits'), share };
  });
}

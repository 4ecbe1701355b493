// Loads of weeks, put together from parts of some technicians each.

import type { SchemaDayWorkloadOut, SchemaLoadOut } from '@/api/types';

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
export function totalsOf(days: string[], lanes: SchemaLoadOut[]): SchemaDayWorkloadOut[] {
  return days.map((date, index) => {
    const rows = lanes.map((lane) => lane.days[index]!);
    const sum = (name: 'working' | 'left' | 'work' | 'drive' | 'overtime' | 'visits') =>
      rows.reduce((all, row) => all + row[name], 0);
    const [working, work, drive] = [sum('working'), sum('work'), sum('drive')];
    const share = working ? (work + drive) / working : Number(work + drive > 0);
    return {
      date,
      working,
      work,
      drive,
      share,
      left: sum('left'),
      overtime: sum('overtime'),
      visits: sum('visits'),
    };
  });
}

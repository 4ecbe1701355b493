// What is wanted of several visits at once.

import type { SchemaBulkIn } from '@/api/types';
import { isoDay } from '@/shared/time';
import type { Deed } from '../lanes/interaction';

/** What is wanted of several visits, before it is read what becomes of them. */
export interface ManyWish {
  kind: SchemaBulkIn['kind'];
  day?: string;
  /** The technician they go to; 0: each stays with its own. */
  who?: number;
  minutes?: number;
}

/** Several dropped at once: the same for all of them, read first in the panel for many. */
export function wishOf({ visit, aim }: Extract<Deed, { kind: 'many' }>, day: string): ManyWish {
  switch (aim.kind) {
    case 'backlog':
      return { kind: 'unplace' };
    case 'day':
      return { kind: 'day', day: aim.day };
    case 'head':
      return { kind: 'give', who: aim.technicianId, day };
    case 'lane':
      // What has no time of its own yet goes to the first times that fit.
      if (visit.start === null) return { kind: 'give', who: aim.technicianId, day: isoDay(aim.start) };
      return {
        kind: 'shift',
        minutes: Math.round((aim.start - visit.start) / 60),
        who: aim.technicianId === visit.technicianId ? 0 : aim.technicianId,
      };
  }
}

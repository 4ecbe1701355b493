import type { SchemaSendingOut } from '@/api/types';
import type { How } from '../commands';

/** What is written: where the promise is kept only to the technician, while it is asked or not yet decided to nobody. */
export function written(row: SchemaSendingOut, how: How | undefined): SchemaSendingOut['drafts'] {
  if (!row.elsewhere || how === 'changed') return row.drafts;
  return how === 'keep' ? row.drafts.filter((draft) => draft.kind === 'technician') : [];
}

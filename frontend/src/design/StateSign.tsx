import type { SchemaVisitState } from '@/api/types';
import { STATE_WORDS } from '@/shared/signs';

/**
 * The classes that tell a visit's state by line and fill, never by hue alone. See the legend of the board.
 */
export const STATE_LOOK: Record<SchemaVisitState, string> = {
  open: 'border border-dotted border-ink-soft bg-sheet',
  placed: 'border border-dashed border-ink bg-sheet',
  sent: 'border border-solid border-ink bg-sheet',
  accepted: 'border border-solid border-ink border-l-4 bg-sheet',
  en_route: 'border border-solid border-ink bg-sheet state-en-route',
  on_site: 'border border-solid border-ink bg-ink text-paper',
  on_hold: 'border border-solid border-ink state-on-hold',
  done: 'border border-solid border-hairline bg-wash text-ink-soft',
  reviewed: 'border border-solid border-hairline bg-wash text-ink-soft',
  missed: 'border border-dashed border-bad bg-bad-wash text-bad',
  cancelled: 'border border-solid border-hairline bg-wash text-ink-soft line-through',
};

export function StateSign({ state }: { state: SchemaVisitState }) {
  return (
    <span className="inline-flex items-center gap-1.5 whitespace-nowrap">
      <span aria-hidden className={`relative inline-block h-3.5 w-6 rounded-sm ${STATE_LOOK[state]}`}>
        {state === 'done' && <Tick />}
      </span>
      {STATE_WORDS[state]}
    </span>
  );
}

export function Tick() {
  return (
    <svg viewBox="0 0 10 10" className="absolute top-1/2 right-0.5 size-2.5 -translate-y-1/2" aria-hidden>
      <path d="M1.5 5.5l2.5 2.5 4.5-6" fill="none" stroke="currentColor" strokeWidth="1.6" />
    </svg>
  );
}

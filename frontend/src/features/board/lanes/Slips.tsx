// Small things that come and go on the board.

import { useQuery } from '@tanstack/react-query';
import { sentenceOf } from '@/api/client';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import type { Board } from '../model';
import { backlogQuery, type Marks } from '../queries';
import { placeNumber, type Aim, type Interaction } from './interaction';

export function aimWords(board: Board, aim: Aim): string {
  const nameOf = (id: number) => board.lanes.find((lane) => lane.technician_id === id)?.name ?? '';
  switch (aim?.kind) {
    case 'lane':
      return [aim.technicianId, ...(aim.mates ?? [])].map(nameOf).join(' + ');
    case 'head':
      return `${nameOf(aim.technicianId)}: first time that fits`;
    case 'day':
      return 'The best place of that day';
    case 'backlog':
      return 'Back to the backlog';
    default:
      return 'Drop on a line';
  }
}

/** What the keys do while they hold a visit, and which of the allowed places is aimed at. */
export function placingHint(
  state: Extract<Interaction, { mode: 'placing' }>,
  marks: { data: Marks | undefined; isPending: boolean; isError: boolean },
): string {
  const keys = '↑↓ who · ←→ when (Shift: 5 min) · [ ] day · Enter places · Esc cancels';
  if (state.together.length > 1 || marks.isError || state.visit.unmeasured) return keys;
  if (marks.isPending) return `${keys} · looking for allowed places…`;
  const count = state.places.length;
  if (count === 0) return `${keys} · no place is allowed on these days`;
  const number = placeNumber(state);
  const which = number === null ? `${count} allowed` : `allowed place ${number + 1} of ${count}`;
  return `Tab next allowed place (${which}) · ${keys}`;
}

export function scrollTo(technicianId: number) {
  document.querySelector(`[data-head="${technicianId}"]`)?.scrollIntoView({ block: 'center' });
  document.querySelector<HTMLElement>(`[data-head="${technicianId}"] button`)?.focus();
}

/** To the best opening of the visit beside the board: Enter places it there, Tab goes on to the next. */
export function toOpenings() {
  const openings = document.querySelector('[data-testid="openings"]');
  openings?.scrollIntoView({ block: 'start' });
  openings?.querySelector<HTMLElement>('li button')?.focus();
}

/** To the fields for an absence, once the panel of the technician is there. */
export function toAbsence() {
  window.setTimeout(
    () => document.querySelector<HTMLElement>('[aria-label="Note an absence"] input')?.focus(),
    100,
  );
}

export function StretchSlip({ seconds, keyboard }: { seconds: number; keyboard: boolean }) {
  return (
    <div
      role="status"
      className="pointer-events-none fixed bottom-6 left-1/2 z-50 -translate-x-1/2 rounded-sm border border-ink bg-sheet px-3 py-2 text-sm"
    >
      <b className="figures">{Math.round(seconds / 60)}</b> min
      {keyboard && <span className="ml-3 text-ink-soft">←→ 5 min · Enter saves · Esc cancels</span>}
    </div>
  );
}

export function Box({ from, to }: { from: { x: number; y: number }; to: { x: number; y: number } }) {
  return (
    <div
      aria-hidden
      className="pointer-events-none fixed z-40 border border-focus bg-focus/10"
      style={{
        left: Math.min(from.x, to.x),
        top: Math.min(from.y, to.y),
        width: Math.abs(to.x - from.x),
        height: Math.abs(to.y - from.y),
      }}
    />
  );
}

/** The backlog folded away under the details: still a place to drop on. */
export function BacklogFoot({ aimed, onOpen }: { aimed: boolean; onOpen: () => void }) {
  const total = useQuery(backlogQuery('')).data?.total;
  return (
    <button
      type="button"
      data-backlog
      onClick={onOpen}
      className={`border-t border-hairline px-3 py-2 text-left text-sm font-semibold hover:bg-wash ${aimed ? 'bg-copper-wash' : ''}`}
    >
      Backlog{total === undefined ? '' : ` · ${total} open`}
    </button>
  );
}

export function Failed({ error, onRetry }: { error: unknown; onRetry: () => void }) {
  return (
    <div className="max-w-lg space-y-3 p-6">
      <Notice tone="bad">The board could not be fetched. {sentenceOf(error)}</Notice>
      <Button onClick={onRetry}>Try again</Button>
    </div>
  );
}

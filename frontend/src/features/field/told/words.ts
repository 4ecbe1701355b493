import { wordsOf } from '../model';
import type { SchemaStep, SchemaWaitingDeedOut } from '@/api/types';
import { STATE_WORDS, STEP_WORDS } from '@/shared/signs';
import { clockTime, stamp } from '@/shared/time';

export type Told = SchemaWaitingDeedOut;

/** What was done, in words. */
export function doneWords({ kind, body }: Pick<Told, 'kind' | 'body'>): string {
  if (kind === 'note')
    return `wrote a note for ${READERS[String(body.reader)] ?? 'somebody'}${body.text ? `: ${String(body.text)}` : ''}`;
  if (kind !== 'step') return wordsOf({ kind, body });
  const step = body.step as SchemaStep;
  const note = typeof body.note === 'string' && body.note ? ` “${body.note}”` : '';
  return `${STEP_WORDS[step]}${note}`;
}

const READERS: Record<string, string> = {
  self: 'themselves',
  office: 'the office',
  customer: 'the customer',
};

/** When it was done, and when it came in if that was noticeably later. */
export const timeWords = ({ happened_at, received_at, late }: Told) =>
  late ? `${stamp(happened_at)}, came in ${clockTime(received_at)}` : stamp(happened_at);

/** How the visit stands in the records. */
export const recordWords = ({ state, whose, start }: Told) =>
  [state && STATE_WORDS[state], whose || 'nobody is assigned', start != null && stamp(start)]
    .filter(Boolean)
    .join(' · ');

/** What was seen on the phone when it was done. */
export const sawWords = ({ saw }: Told) =>
  saw ? `${STATE_WORDS[saw.state]}${saw.start == null ? '' : `, to begin ${stamp(saw.start)}`}` : '';

/** By visit, in the order in which they came. */
export function byVisit(rows: readonly Told[]): Told[][] {
  const found = new Map<string, Told[]>();
  for (const row of rows) {
    const key = `${row.visit_id} ${row.technician_id}`;
    found.set(key, [...(found.get(key) ?? []), row]);
  }
  return [...found.values()];
}

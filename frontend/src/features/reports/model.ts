import type { SchemaReportOut } from '@/api/types';

export const isEmpty = ({ tasks, answers, notes, pictures, acceptance, state }: SchemaReportOut): boolean =>
  answers.length + notes.length + pictures.length === 0 &&
  acceptance === null &&
  tasks.every(({ at }) => at === null) &&
  !['on_site', 'on_hold', 'done'].includes(state);

/** An answer as it is read: yes and no in words, numbers with their unit. */
export function wordsOfAnswer(value: unknown, question: Record<string, unknown>): string {
  if (value === true) return 'yes';
  if (value === false) return 'no';
  if (question.kind === 'photo') return 'photo';
  if (question.kind === 'signature') return 'signed';
  return [String(value), question.unit].filter(Boolean).join(' ');
}

export function sentenceOfAcceptance({
  ended,
  name,
  rating,
}: NonNullable<SchemaReportOut['acceptance']>): string {
  if (ended === 'refused') return name ? `${name} refused to sign` : 'The customer refused to sign';
  if (ended === 'absent') return 'Nobody was there to sign';
  return rating ? `Signed by ${name}, ${rating} of 5` : `Signed by ${name}`;
}

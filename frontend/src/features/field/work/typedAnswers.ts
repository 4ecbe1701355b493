import type { Question } from '@/shared/questions';

/** What was typed as it is kept; null: nothing. A number that is none stays as it was typed. */
export function readAs({ kind }: Pick<Question, 'kind'>, typed: string): string | number | null {
  const text = typed.trim();
  if (text === '') return null;
  if (kind !== 'number') return text;
  const number = Number(text.replace(',', '.'));
  return Number.isFinite(number) ? number : text;
}

/** Why a typed answer may be wrong, in words; a number out of bounds may yet be right. */
export function doubtOf(question: Question, value: string | number | null): string {
  if (question.kind !== 'number' || value === null) return '';
  if (typeof value !== 'number') return 'A number is wanted.';
  const unit = question.unit ? ` ${question.unit}` : '';
  const { least, most } = question;
  if (least !== undefined && least !== null && value < least)
    return `Usually at least ${least}${unit}. Is ${value}${unit} right?`;
  if (most !== undefined && most !== null && value > most)
    return `Usually at most ${most}${unit}. Is ${value}${unit} right?`;
  return '';
}

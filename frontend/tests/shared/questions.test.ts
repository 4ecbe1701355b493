import { expect, it } from 'vitest';
import { asked, type Question } from '@/shared/questions';
import { fillIn } from '@/shared/templates';

const questions: Question[] = [
  { key: 'wet', label: 'Is it wet?', kind: 'yes_no' },
  { key: 'oil', label: 'Is it oil?', kind: 'yes_no', shown_if: ['wet', true] },
  { key: 'litres', label: 'How much?', kind: 'number', shown_if: ['oil', true] },
];
const keys = (answers: Record<string, unknown>) => asked(questions, answers).map((row) => row.key);

it('asks what hangs on an answer only when that was given', () => {
  expect(keys({})).toEqual(['wet']);
  expect(keys({ wet: true })).toEqual(['wet', 'oil']);
  expect(keys({ wet: true, oil: true })).toEqual(['wet', 'oil', 'litres']);
});

it('hides what hangs on a hidden question, whatever was answered before', () =>
  expect(keys({ wet: false, oil: true })).toEqual(['wet']));

it('fills words into a text and leaves unknown ones to be seen', () =>
  expect(fillIn('{site} {window} {nobody}', { site: 'Quay', window: 'at 8' })).toBe('Quay at 8 {nobody}'));

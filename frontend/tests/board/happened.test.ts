import { beforeEach, expect, test } from 'vitest';
import { happened } from '@/features/board/details/happened';
import { setTimeZone } from '@/shared/time';
import { at } from '../drawn';

beforeEach(() => setTimeZone('Atlantic/Azores'));

const event = (step: 'arrive' | 'finish', done: number, heard: number) => ({
  key: step,
  step,
  at: done,
  recorded_at: heard,
  by: 'Ines Falk',
  technician_id: 1,
  note: '',
  lon: null,
  lat: null,
});
const entry = (when: number, by: string, sentence: string) => ({ at: when, by, sentence, note: '' });

test('what came in late stands once, where it was done, and says when it came', () => {
  const rows = happened({
    events: [event('arrive', at(10, 12), at(11, 40)), event('finish', at(11, 45), at(11, 45))],
    history: [
      entry(at(11, 45), 'Ines Falk', 'finished it'),
      entry(at(11, 40), 'Ines Falk', 'arrived at it'),
      entry(at(9), 'Dora Quill', 'sent it'),
    ],
  });
  expect(rows.map(({ at: when, words }) => [when, words])).toEqual([
    [at(11, 45), 'Ines Falk finished it'],
    [at(10, 12), 'Ines Falk: arrived, came in 11:40'],
    [at(9), 'Dora Quill sent it'],
  ]);
});

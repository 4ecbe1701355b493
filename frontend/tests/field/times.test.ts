import { readFileSync } from 'node:fs';
import { expect, test } from 'vitest';
import { steppedBy } from '@/features/field/sync/entries';
import { minutesOf, type Stamps } from '@/shared/presence';

interface Case {
  name: string;
  presence: Stamps;
  travel: number | null;
  work: number | null;
}
// The server's own tests read the same cases.
const CASES = JSON.parse(
  readFileSync(new URL('../../../tests/core/reports/times.json', import.meta.url), 'utf8'),
) as Case[];

test.each(CASES)('the phone counts minutes as the office does: $name', ({ presence, travel, work }) => {
  expect([minutesOf(presence, 'travel'), minutesOf(presence, 'work')]).toEqual([travel, work]);
});

const crew = () =>
  ['Ines Falk', 'Ivor Dale'].map((name, index) => ({
    technician_id: index + 1,
    name,
    departed: 0,
    arrived: 600,
    finished: null,
    held: [],
  }));

test('whoever leads ends the work for all; who goes along leaves alone', () => {
  const own = steppedBy(crew(), 'finish', { at: 4000, by: 'Ivor Dale' });
  expect(own.map(({ finished }) => finished)).toEqual([null, 4000]);
  const all = steppedBy(own, 'finish', { at: 5000, by: 'Ines Falk' });
  expect(all.map(({ finished }) => finished)).toEqual([5000, 4000]);
});

test('a hold counts for all of the crew, until the work goes on', () => {
  const lead = { by: 'Ines Falk' };
  const held = steppedBy(crew(), 'hold', { at: 1000, ...lead });
  expect(held.map((row) => row.held)).toEqual([
    [{ since: 1000, until: null }],
    [{ since: 1000, until: null }],
  ]);
  const resumed = steppedBy(held, 'resume', { at: 1600, ...lead });
  expect(resumed[1]!.held).toEqual([{ since: 1000, until: 1600 }]);
});

import { readFileSync } from 'node:fs';
import { describe, expect, it, test } from 'vitest';
import { withDay, type DayLog } from '@/features/field/sync/daylog';
import { oddEntries, summaryOf, type DayFacts, type DaySummary } from '@/features/field/sync/days';
import type { Kept } from '@/features/field/sync/deeds';
import { emptyLog } from './reports';

interface Case {
  name: string;
  facts: DayFacts;
  summary: DaySummary;
  odd: string[];
}
// The server's own tests read the same cases.
const CASES = JSON.parse(
  readFileSync(new URL('../../../tests/core/daylogs/days.json', import.meta.url), 'utf8'),
) as Case[];

test.each(CASES)('the phone says of a day what the office does: $name', ({ facts, summary, odd }) => {
  expect(summaryOf(facts)).toEqual(summary);
  expect(oddEntries(facts).map(({ key }) => key)).toEqual(odd);
});

let number = 0;
const did = (kind: string, at: number, body = {}, more = {}): Kept =>
  ({
    deed: {
      id: String((number += 1)),
      kind,
      visitId: null,
      happenedAt: at * 1000,
      body: { day: '2026-11-23', ...body },
      ...more,
    },
    fate: 'unsent',
    sentence: '',
  }) as unknown as Kept;
const after = (kept: Kept[], log: Partial<DayLog> = {}) => withDay(emptyLog(log), kept);

describe('a day on the phone', () => {
  it('begins once, and its end ends a break', () => {
    const log = after([
      did('clock on', 100),
      did('clock on', 200),
      did('pause', 300, { begins: true }),
      did('pause', 310, { begins: true }),
      did('clock off', 400),
    ]);
    expect([log.began, log.ended, log.pauses]).toEqual([100, 400, [{ since: 300, until: 400 }]]);
  });

  it('counts once what the office knows, and nothing of another day or of what was refused', () => {
    const known = did('pause', 300, { begins: true });
    const other = did('clock on', 100, { day: '2026-11-22' });
    const refused = { ...did('typed time', 500, { which: 'began', at: 50 }), fate: 'refused' as const };
    const log = after([known, other, refused], { known: [known.deed.id], began: 90 });
    expect([log.began, log.pauses]).toEqual([90, []]);
  });

  it('keeps what was said of the vehicle piece by piece, and what was stamped at visits', () => {
    const visits = [{ id: 7, label: 'W-7', departed: 10, arrived: null, finished: null, over: false }];
    const log = after(
      [
        did('vehicle', 100, { vehicle_id: 3, name: 'Van 3', odometer_began: 900 }),
        did('vehicle', 200, { checks: { tyres: true } }),
        did('step', 300, { step: 'arrive' }, { visitId: 7 }),
        did('step', 900, { step: 'finish' }, { visitId: 7 }),
      ],
      { visits },
    );
    expect(log).toMatchObject({
      vehicle_id: 3,
      vehicle: 'Van 3',
      odometer_began: 900,
      checks: { tyres: true },
    });
    expect(log.visits[0]).toMatchObject({ departed: 10, arrived: 300, finished: 900, over: true });
  });
});

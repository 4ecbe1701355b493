import { readFileSync } from 'node:fs';
import { expect, test } from 'vitest';
import {
  inTheWay,
  nextOf,
  standings,
  type Facts,
  type Standing,
  type WorkStep,
} from '@/features/field/sync/steps';

interface Case {
  steps: WorkStep[];
  facts: Facts;
  standings: Standing[];
  next: string | null;
  in_the_way: string[];
}

// The office's own tests read the same file.
const CASES = JSON.parse(
  readFileSync(new URL('../../../tests/core/reports/steps.json', import.meta.url), 'utf8'),
) as Case[];

test.each(CASES)('phone and office answer alike: $facts.state, next $next', (each) => {
  const rows = standings(each.steps, each.facts);
  expect(rows).toEqual(each.standings);
  expect(nextOf(rows)?.kind ?? null).toBe(each.next);
  expect(inTheWay(rows).map(({ kind }) => kind)).toEqual(each.in_the_way);
});

test('there are cases', () => expect(CASES.length).toBeGreaterThan(20));

import { readFileSync } from 'node:fs';
import { expect, test } from 'vitest';
import type { Kept } from '@/features/field/sync/deeds';
import { withDone, type Report } from '@/features/field/sync/report';
import { emptyReport, task } from './reports';

interface Case {
  name: string;
  deeds: { kind: string; at: number; body: unknown }[];
  report: Record<string, unknown>;
}

// The server's own tests read the same cases: what is shown before it has answered is what it will say.
const CASES = JSON.parse(
  readFileSync(new URL('../../../tests/apps/reports/deeds.json', import.meta.url), 'utf8'),
) as Case[];
const BEGINS = 1_000_000;

const byFirst = (rows: unknown[][]) =>
  rows.sort(([one], [other]) => String(one).localeCompare(String(other)));
function reduced({
  tasks,
  answers,
  notes,
  pictures,
  acceptance: said,
  looked,
  entries,
}: Report): Record<string, unknown> {
  const since = (at: number | null) => (at === null ? null : at - BEGINS);
  return {
    used: byFirst(
      entries.used.map(({ id, name, quantity, elsewhere, at }) => [id, name, quantity, elsewhere, since(at)]),
    ),
    removed: entries.removed.map(({ id, name, what, because, at }) => [id, name, what, because, since(at)]),
    charges: entries.charges.map(({ id, words, quantity, at }) => [id, words, quantity, since(at)]),
    mileages: entries.mileages.map(({ metres, at }) => [metres, since(at)]),
    nothing_more: entries.nothing_more,
    tasks: tasks.map(({ words, at }) => [words, since(at)]),
    answers: byFirst(answers.map(({ key, value, at }) => [key, value, since(at)])),
    notes: byFirst(notes.map(({ reader, text, at }) => [reader, text, since(at)])),
    pictures: pictures.map(({ id, caption, pair, original, at }) => [id, caption, pair, original, since(at)]),
    acceptance: said && [said.ended, said.name, said.rating, said.words, since(said.at)],
    looked,
  };
}

test.each(CASES)('the phone shows what the server makes of it: $name', ({ deeds, report }) => {
  const kept = deeds.map(({ kind, at, body }, index) => ({
    deed: { id: String(index), kind, body, visitId: 7, happenedAt: (BEGINS + at) * 1000 },
    fate: 'unsent',
    sentence: '',
  })) as unknown as Kept[];
  const begun = emptyReport({ looked: false, tasks: [task('Grease the rails'), task('Test ride')] });
  const found = reduced(withDone(begun, kept, 'Ines Falk'));
  for (const [name, wanted] of Object.entries(report)) expect(found[name]).toEqual(wanted);
});

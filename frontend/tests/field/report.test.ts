import { describe, expect, test } from 'vitest';
import { wordsOf } from '@/features/field/model';
import type { Fate, Kept } from '@/features/field/sync/deeds';
import { factsOf, shownPhotos, withDone, type Bodies, type ReportKind } from '@/features/field/sync/report';
import { doubtOf, readAs } from '@/features/field/work/typedAnswers';
import { emptyReport, task } from './reports';

let second = 100;
function did<K extends ReportKind>(kind: K, body: Bodies[K], fate: Fate = 'unsent'): Kept {
  const at = ++second * 1000;
  return {
    deed: { id: `${at}`, kind, body, visitId: 7, happenedAt: at, deviceAt: at } as never,
    fate,
    sentence: '',
  };
}
const after = (report: ReturnType<typeof emptyReport>, ...since: Kept[]) =>
  withDone(report, since, 'Ines Falk');

describe('a report after what was done on the phone', () => {
  test('a task keeps its first tick, and loses it when it is taken back', () => {
    const report = emptyReport({ tasks: [task('Grease it'), task('Ride')] });
    const one = did('task', { words: 'Grease it', done: true });
    const ticked = after(report, one, did('task', { words: 'Grease it', done: true }));
    expect(ticked.tasks[0]).toEqual({ words: 'Grease it', at: one.deed.happenedAt / 1000, by: 'Ines Falk' });
    expect(after(ticked, did('task', { words: 'Grease it', done: false })).tasks[0]!.at).toBeNull();
  });

  test('the last answer stands, and one that was taken away is gone', () => {
    const told = after(
      emptyReport(),
      did('answer', { key: 'gap', value: 4 }),
      did('answer', { key: 'gap', value: 5 }),
    );
    expect(told.answers).toMatchObject([{ key: 'gap', value: 5 }]);
    expect(after(told, did('answer', { key: 'gap', value: null })).answers).toEqual([]);
  });

  test('notes are one for each reader and writer', () => {
    const others = { reader: 'office', text: 'mine', at: 1, by: 'Ivor Larkin' };
    const report = after(
      emptyReport({ notes: [others] }),
      did('note', { reader: 'office', text: 'gate' }),
      did('note', { reader: 'office', text: ' the gate ' }),
      did('note', { reader: 'self', text: 'x' }),
      did('note', { reader: 'self', text: ' ' }),
    );
    expect(report.notes.map(({ text }) => text)).toEqual(['mine', 'the gate']);
  });

  test('a picture is there once, however often something is told of it', () => {
    const told = { id: 'a', kind: 'photo' as const, size: 9, media_type: 'image/jpeg' };
    const report = after(
      emptyReport(),
      did('picture', told),
      did('picture', { ...told, caption: 'The sill', pair: 'before' }),
      did('picture', { ...told, id: 'b' }),
      did('picture out', { id: 'b' }),
    );
    expect(report.pictures).toMatchObject([{ id: 'a', caption: 'The sill', pair: 'before', here: false }]);
  });

  test('what is missing follows from it, as the office would say', () => {
    const questions = [
      { key: 'rust', label: 'Rust', kind: 'yes_no', required: 'to close' },
      { key: 'where', label: 'Where?', kind: 'text', required: 'to close', shown_if: ['rust', true] },
    ];
    const report = emptyReport({ questions, tasks: [task('Grease it')] });
    expect(factsOf(report, 'on_site')).toMatchObject({ questions_open: ['Rust'], tasks_open: ['Grease it'] });
    const rusty = after(report, did('answer', { key: 'rust', value: true }));
    expect(factsOf(rusty, 'on_site').questions_open).toEqual(['Where?']);
    const accepted = after(
      rusty,
      did('acceptance', { ended: 'absent', words: 'gone home' }),
      did('look', {}),
    );
    expect(factsOf(accepted, 'on_site')).toMatchObject({ accepted: true, looked: true, answered: 1 });
  });
});

const number = { key: 'gap', label: 'Gap', kind: 'number' as const, least: 2, most: 8, unit: 'mm' };
test.each([
  ['5,5', 5.5, ''],
  [' 11 ', 11, 'Usually at most 8 mm. Is 11 mm right?'],
  ['1', 1, 'Usually at least 2 mm. Is 1 mm right?'],
  ['five', 'five', 'A number is wanted.'],
  ['', null, ''],
])('a typed number %s', (typed, value, doubt) => {
  expect(readAs(number, typed)).toBe(value);
  expect(doubtOf(number, readAs(number, typed))).toBe(doubt);
});

test('what was done is said in a few words', () => {
  const said = [
    did('task', { words: 'Ride', done: true }),
    did('answer', { key: 'gap', value: 5 }),
    did('note', { reader: 'self', text: 'x' }),
    did('picture', { id: 'a', kind: 'photo', size: 1, media_type: 'image/jpeg' }),
    did('acceptance', { ended: 'signed', name: 'Jonas' }),
  ].map(({ deed }) => wordsOf(deed));
  expect(said).toEqual([
    'ticked “Ride”',
    'answered: 5',
    'note for yourself: x',
    'took a photo',
    'Jonas signed',
  ]);
});

test('of a photo that was drawn on the drawing is shown, and the photo again when that is left out', () => {
  const told = { kind: 'photo' as const, size: 9, media_type: 'image/jpeg' };
  const photo = did('picture', { ...told, id: 'a' });
  const drawn = did('picture', { ...told, id: 'b', original: 'a' });
  const ids = (...since: Kept[]) => shownPhotos(after(emptyReport(), ...since).pictures).map(({ id }) => id);
  expect(ids(photo, drawn)).toEqual(['b']);
  expect(ids(photo, drawn, did('picture out', { id: 'b' }))).toEqual(['a']);
  expect(factsOf(after(emptyReport(), photo, drawn), 'on_site').photos).toBe(1);
});

import { describe, expect, test } from 'vitest';
import {
  project,
  projectRow,
  underWay,
  unsentWords,
  type OwnRow,
  type OwnVisit,
} from '@/features/field/sync/ahead';
import type { Fate, Kept } from '@/features/field/sync/deeds';
import { emptyReport } from './reports';

const action = (step: string, to: number) => ({ step, to, needs_note: step === 'finish' });
const AHEAD = [
  { state: 'accepted', actions: [action('depart', 1), action('arrive', 2), action('decline', 4)] },
  { state: 'en_route', actions: [action('arrive', 2)] },
  { state: 'on_site', actions: [action('finish', 3)] },
  { state: 'done', actions: [] },
  { state: 'open', actions: [] },
];
const visit = (known: string[] = []) =>
  ({
    id: 12,
    state: 'accepted',
    outcome: '',
    ahead: AHEAD,
    actions: AHEAD[0]!.actions,
    known: [],
    asked: [],
    sent: [],
    readers: [],
    report: emptyReport(),
    events: known.map((key) => ({ key, step: 'accept', at: 1, by: 'Ines Falk', note: '' })),
  }) as unknown as OwnVisit;
const row = (fields: object = {}) =>
  ({
    id: 12,
    state: 'accepted',
    technician_id: 3,
    over: false,
    movable: true,
    known: [],
    ahead: AHEAD,
    ...fields,
  }) as unknown as OwnRow;

const did = (id: string, step: string, fate: Fate = 'unsent', visitId = 12): Kept => ({
  deed: {
    id,
    number: 1,
    lane: `visit ${visitId}`,
    previous: null,
    kind: 'step',
    visitId,
    body: { step, note: 'as seen' },
    basedOn: null,
    where: null,
    deviceAt: 5_000,
    happenedAt: 7_900,
  },
  fate,
  sentence: fate === 'waiting' ? 'It is Milo’s now.' : '',
});

describe('a visit on the phone', () => {
  test('is as what was done here has left it, whether that was sent or not', () => {
    const shown = project(visit(), [did('a', 'depart', 'applied'), did('b', 'arrive')], 'Ines Falk');
    expect(shown.visit.state).toBe('on_site');
    expect(shown.visit.actions.map(({ step }) => step)).toEqual(['finish']);
    expect(shown.events).toMatchObject([
      { step: 'depart', at: 7, by: 'Ines Falk', fate: 'applied' },
      { step: 'arrive', fate: 'unsent' },
    ]);
  });

  test('counts once what the server knows already', () => {
    const shown = project(visit(['a']), [did('a', 'depart', 'applied')], 'Ines Falk');
    expect([shown.visit.state, shown.events.length]).toEqual(['accepted', 1]);
  });

  test('keeps the words of what was done', () => {
    const shown = project(visit(), [did('a', 'arrive'), did('b', 'finish')], 'Ines Falk');
    expect([shown.visit.state, shown.visit.outcome]).toEqual(['done', 'as seen']);
  });

  test('does not pretend that what waits for the office is so', () => {
    const shown = project(
      visit(),
      [did('a', 'depart', 'waiting'), did('b', 'arrive', 'refused')],
      'Ines Falk',
    );
    expect(shown.visit.state).toBe('accepted');
    expect(shown.waiting.map(({ sentence }) => sentence)).toEqual(['It is Milo’s now.']);
  });

  test('shows what was kept without an effect, and lets it have none', () => {
    const shown = project(visit(), [did('a', 'depart', 'kept')], 'Ines Falk');
    expect([shown.visit.state, shown.waiting.length]).toEqual(['accepted', 0]);
    expect(shown.events).toMatchObject([{ step: 'depart', fate: 'kept' }]);
  });

  test('is not moved by what does not follow, or by what was done elsewhere', () => {
    expect(project(visit(), [did('a', 'resume'), did('b', 'depart', 'unsent', 13)], '').visit.state).toBe(
      'accepted',
    );
  });
});

describe('the day', () => {
  test('shows the same', () => {
    expect(projectRow(row(), [did('a', 'depart')])).toMatchObject({
      state: 'en_route',
      over: false,
      movable: false,
    });
    expect(projectRow(row(), [did('a', 'arrive'), did('b', 'finish')])).toMatchObject({
      state: 'done',
      over: true,
    });
    expect(projectRow(row({ known: ['a'] }), [did('a', 'depart')]).state).toBe('accepted');
  });

  test('knows what is under way and has to end first', () => {
    const other = projectRow(row({ id: 13 }), [did('a', 'arrive', 'unsent', 13)]);
    expect(underWay([row(), other], 12, 3)).toBe(other);
    expect(underWay([row(), other], 13, 3)).toBeUndefined();
    expect(underWay([row(), other], 12, 4)).toBeUndefined();
  });

  test('says how much is still on the phone', () => {
    expect(unsentWords([did('a', 'depart', 'applied')])).toBe('');
    expect(unsentWords([did('a', 'depart')])).toBe('1 thing is still on this phone');
    expect(unsentWords([did('a', 'depart'), did('b', 'arrive')])).toBe('2 things are still on this phone');
  });
});

import { expect, it } from 'vitest';
import { actionsOf, upNext } from '@/features/field/model';
import type { SchemaStep } from '@/api/types';

const NOT_BEGUN = { state: 'accepted', over: false, movable: true };
const UNDER_WAY = { state: 'on_site', over: false, movable: false };
const ON_HOLD = { state: 'on_hold', over: false, movable: false };
const OVER = { state: 'done', over: true, movable: false };
const day = (...rows: { state: string; over: boolean; movable: boolean }[]) =>
  rows.map((row, id) => ({ id, ...row }));
const offered = (...steps: SchemaStep[]) =>
  steps.map((step) => ({ step, needs_note: ['decline', 'hold', 'finish'].includes(step) }));

it('looks at what is under way before anything else', () => {
  expect(upNext(day(OVER, NOT_BEGUN, UNDER_WAY))?.id).toBe(2);
  expect(upNext(day(NOT_BEGUN, UNDER_WAY))?.id).toBe(1);
  expect(upNext(day(ON_HOLD, NOT_BEGUN, UNDER_WAY))?.id).toBe(2);
  expect(upNext(day(NOT_BEGUN, ON_HOLD))?.id).toBe(1);
});

it('else at the first that is not over', () => {
  expect(upNext(day(OVER, OVER, NOT_BEGUN, NOT_BEGUN))?.id).toBe(2);
  expect(upNext(day(OVER, OVER))).toBeUndefined();
});

it('has the first thing that is offered as the large one', () => {
  const [main, ...others] = actionsOf(offered('depart', 'arrive', 'decline'), true);
  expect(main).toMatchObject({ step: 'depart', label: 'Set out' });
  expect(others.map((row) => row.label)).toEqual(['I am there already', 'Decline']);
});

it('asks for words where the server needs them', () => {
  const asking = actionsOf(offered('finish', 'hold', 'resume'), true).filter((row) => row.ask);
  expect(asking.map((row) => row.step)).toEqual(['finish', 'hold']);
});

it('lets who goes along leave without a word, and decline only with one', () => {
  expect(actionsOf(offered('finish'), false)).toEqual([{ step: 'finish', label: 'Leave', ask: undefined }]);
  expect(actionsOf(offered('accept', 'decline'), false)[1]!.ask).toBe('Why can you not do it?');
});

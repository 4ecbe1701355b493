import { expect, it } from 'vitest';
import { ACTIONS, upNext } from '@/features/field/model';
import type { SchemaVisitState } from '@/api/types';

const day = (...states: SchemaVisitState[]) => states.map((state, id) => ({ id, state }));

it('looks at what is under way before anything else', () => {
  expect(upNext(day('done', 'accepted', 'on_site'))?.id).toBe(2);
  expect(upNext(day('accepted', 'en_route'))?.id).toBe(1);
});

it('else at the first that is not over', () => {
  expect(upNext(day('done', 'missed', 'accepted', 'sent'))?.id).toBe(2);
  expect(upNext(day('done', 'on_hold', 'sent'))?.id).toBe(1);
  expect(upNext(day('done', 'reviewed'))).toBeUndefined();
});

it('has one large action for every state in which something is to be done', () => {
  expect(Object.entries(ACTIONS).map(([state, { main }]) => [state, main.step])).toEqual([
    ['sent', 'accept'],
    ['accepted', 'depart'],
    ['en_route', 'arrive'],
    ['on_site', 'finish'],
    ['on_hold', 'resume'],
  ]);
});

it('asks for words where the office needs them', () => {
  const asking = Object.values(ACTIONS).flatMap(({ main, others }) =>
    [main, ...others].filter((action) => action.ask),
  );
  expect(new Set(asking.map((action) => action.step))).toEqual(new Set(['decline', 'finish', 'hold']));
});

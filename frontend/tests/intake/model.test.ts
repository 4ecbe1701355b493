import { beforeAll, describe, expect, it } from 'vitest';
import type { SchemaJobTypeOut } from '@/api/types';
import { ANY_TIME, shownOffers } from '@/features/appointments/model';
import {
  EMPTY,
  filledFrom,
  needForm,
  NO_DETAILS,
  NO_STANDBY,
  toDetails,
  toOffers,
  toRequest,
  toStandby,
  typedWindow,
} from '@/features/intake/model';
import { moment, setTimeZone } from '@/shared/time';

beforeAll(() => setTimeZone('Atlantic/Azores'));
const said = { ...EMPTY, whatIsWrong: 'Lift stands' };
const problems = (form: typeof EMPTY) =>
  needForm.safeParse(form).error?.issues.map((issue) => issue.path[0]) ?? [];

describe('what is typed during a call', () => {
  it('needs nothing but what is wrong', () => {
    expect(problems(said)).toEqual([]);
    expect(problems({ ...EMPTY, whatIsWrong: '  ' })).toEqual(['whatIsWrong']);
  });

  it('takes a promise whole or not at all', () => {
    expect(problems({ ...said, promiseFrom: '8', promiseTo: '' })).toEqual(['promiseFrom']);
    expect(problems({ ...said, promiseFrom: '8', promiseTo: '10' })).toEqual(['promiseFrom']);
    expect(problems({ ...said, promiseDay: '2026-11-24', promiseFrom: '10', promiseTo: '8' })).toEqual([
      'promiseFrom',
    ]);
    expect(problems({ ...said, promiseDay: '2026-11-24', promiseFrom: '8', promiseTo: '10' })).toEqual([]);
    expect(problems({ ...said, promiseDay: '2026-11-24' })).toEqual([]);
  });

  it('refuses a length that is none', () =>
    expect(problems({ ...said, length: 'long' })).toEqual(['length']));
});

it('lets the job type fill length, priority and skills', () => {
  const job = { duration_seconds: 5400, priority: 2, needs: { Rescue: 2 } } as unknown as SchemaJobTypeOut;
  expect(filledFrom(job)).toEqual({ length: '90', priority: 2, needs: { Rescue: 2 } });
  expect(filledFrom({ ...job, duration_seconds: null }).length).toBe('');
});

it('becomes a request, and a typed time one in the company’s zone', () => {
  const form = { ...said, length: '1:30', promiseDay: '2026-11-24', promiseFrom: '8', promiseTo: '+120' };
  const request = toRequest(form, 9, 4);
  expect([request.site_id, request.asset_id, request.duration_seconds]).toEqual([9, 4, 5400]);
  expect(typedWindow(form)).toEqual({ start: moment('2026-11-24', 480), end: moment('2026-11-24', 600) });
  expect(typedWindow(said)).toBeNull();
});

it('asks for windows only when something changes that they depend on', () => {
  const one = toOffers({ ...said, contactName: 'Ada' }, 9, ANY_TIME);
  const two = toOffers({ ...said, whatIsWrong: 'Lift stands still, says the porter' }, 9, ANY_TIME);
  expect(one).toEqual(two);
  expect(toOffers(said, 9, { ...ANY_TIME, part: 'morning' })).not.toEqual(one);
});

it('sends of the order only what was said', () => {
  expect(toDetails(NO_DETAILS)).toEqual({ billing: 'billable' });
  const payer = { id: 3, name: 'Varn Ferries' };
  expect(toDetails({ ...NO_DETAILS, payer, payerAddress: 'typed before' })).toMatchObject({ payer_id: 3 });
});

it('puts somebody on standby only when that was ticked', () => {
  expect(toStandby(NO_STANDBY)).toBeNull();
  expect(toStandby({ ...NO_STANDBY, on: true, notice: '1:30' })).toMatchObject({ notice_minutes: 90 });
});

it('shows the best windows, or all by time', () => {
  const offer = (start: number) => ({ start, end: start + 1 });
  const answer = { offers: [offer(30), offer(10), offer(20)], shown: 2 } as never;
  expect(shownOffers(answer, false, false).map((row) => row.start)).toEqual([30, 10]);
  expect(shownOffers(answer, true, true).map((row) => row.start)).toEqual([10, 20, 30]);
});

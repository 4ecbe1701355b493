import { beforeAll, describe, expect, it } from 'vitest';
import type { SchemaJobTypeOut } from '@/api/types';
import { EMPTY, filledFrom, needForm, toRequest } from '@/features/intake/model';
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

it('becomes a request with times in the company’s zone', () => {
  const request = toRequest(
    { ...said, length: '1:30', promiseDay: '2026-11-24', promiseFrom: '8', promiseTo: '+120' },
    9,
  );
  expect(request.site_id).toBe(9);
  expect(request.duration_seconds).toBe(5400);
  expect(request.promise).toEqual({ start: moment('2026-11-24', 480), end: moment('2026-11-24', 600) });
  expect(toRequest(said, 9).promise).toBeNull();
});

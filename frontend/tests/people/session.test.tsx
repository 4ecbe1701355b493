import { beforeEach, expect, it } from 'vitest';
import { QueryClient } from '@tanstack/react-query';
import { forgetWho, sessionQuery } from '@/features/people';
import { Refusal, serve } from '../server';

const ines = {
  account: { id: 3, name: 'Ines Falk', email: 'ines@example.org', role: 'technician', technician_id: 1 },
  may: ['use', 'work_in_field'],
  csrf_token: '',
  now: 1_795_780_000,
  helper: null,
};
const COMPANY = { name: 'Test Lifts', time_zone: 'Atlantic/Azores', style: {} };
const broken = () => {
  throw new Refusal(503, { code: 'busy', title: 'Try again.' });
};

const ask = (session: unknown) => {
  serve({ 'GET /api/v1/session': session, 'GET /api/v1/company': COMPANY });
  return new QueryClient({ defaultOptions: { queries: { retry: false } } }).fetchQuery(sessionQuery);
};

beforeEach(() => {
  forgetWho();
  window.history.replaceState(null, '', '/field');
});

it('knows without an answer who works on this phone', async () => {
  await ask(ines);
  expect(await ask(broken)).toMatchObject({
    account: ines.account,
    kept: 'offline',
    company: { name: 'Test Lifts' },
  });
});

it('keeps whose session has ended at work, and says so', async () => {
  await ask(ines);
  expect(await ask({ ...ines, account: null, may: [] })).toMatchObject({
    account: ines.account,
    kept: 'ended',
  });
});

it('knows nobody at the office’s pages, and after signing out', async () => {
  await ask(ines);
  window.history.replaceState(null, '', '/sign-in');
  expect((await ask({ ...ines, account: null, may: [] })).account).toBeNull();
  window.history.replaceState(null, '', '/field');
  forgetWho();
  await expect(ask(broken)).rejects.toThrow('Try again.');
});

it('keeps nobody of the office, and not who helps', async () => {
  await ask({ ...ines, may: ['use', 'plan'] });
  await expect(ask(broken)).rejects.toThrow();
  await ask({ ...ines, helper: 'Ada Reyne' });
  await expect(ask(broken)).rejects.toThrow();
});

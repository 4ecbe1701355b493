import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import type { SchemaJobTypeOut } from '@/api/types';
import { JobTypeForm } from '@/features/catalogue/types/JobTypeForm';
import { draw } from '../drawn';
import { asked, askedOf, Refusal, serve } from '../server';

const JOB = {
  id: 4,
  version: 2,
  code: 'door',
  name: 'Noisy door',
  duration_seconds: 2700,
  priority: 4,
  needs: { doors: 1 },
  crew: 1,
  advice: 'Ask whether it still closes.',
  tasks: ['Look', 'Oil'],
  questions: [],
  fields: [],
  certificates: [],
  parts: { 'door-roller': 2 },
  lines: [
    {
      key: 'l1',
      quantity: '1',
      wording: 'Call-out',
      unit_price: 5000,
      price: 5000,
      kind: 'charge',
      item: '',
    },
  ],
  terms: '',
  worth: 120,
  visits: [],
  respond_minutes: null,
  resolve_minutes: 1440,
  promise_minutes: null,
  offers: {},
  retired: false,
} as unknown as SchemaJobTypeOut;
const KEEP = 'PUT /api/v1/catalogue/job-types/4';
const NAME = 'POST /api/v1/parts';
const MAKE = 'POST /api/v1/catalogue/job-types';

const show = async (job: SchemaJobTypeOut | null = JOB, keep: unknown = JOB, canChange = true) => {
  serve({
    [KEEP]: keep,
    [MAKE]: { ...JOB, id: 9 },
    'GET /api/v1/company': { currency: 'EUR', areas: [], depots: [] },
    'GET /api/v1/pricing/items': [],
    'GET /api/v1/pricing/units': [],
    'GET /api/v1/pricing/tax-codes': [],
    'GET /api/v1/pricing/discounts': [],
    'POST /api/v1/figures': { sets: [] },
    'GET /api/v1/people/skills': [{ code: 'doors', name: 'Door drives', retired: false }],
    'GET /api/v1/people/certificates': [],
    'GET /api/v1/parts': [{ code: 'door-roller', name: 'Roller, 40 mm', retired: false }],
    [NAME]: [{ code: 'gear-oil', name: 'Gear oil', retired: false }],
  });
  const onKept = vi.fn();
  return { ...(await draw(<JobTypeForm job={job} canChange={canChange} onKept={onKept} />)), onKept };
};
const save = (user: { click: (e: Element) => Promise<void> }) =>
  user.click(screen.getByRole('button', { name: /Keep|Save|Make/ }));
const body = () => (askedOf(KEEP)[0] ?? askedOf(MAKE)[0])?.body as Record<string, unknown> | undefined;

describe('a job type', () => {
  it('is kept as it is when nothing was changed', async () => {
    const { user, onKept } = await show();
    await screen.findByLabelText('Name');
    await save(user);
    await waitFor(() => expect(onKept).toHaveBeenCalledWith(4));
    expect(body()).toMatchObject({
      version: 2,
      duration_seconds: 2700,
      tasks: ['Look', 'Oil'],
      parts: { 'door-roller': 2 },
      lines: [{ key: 'l1', quantity: '1', wording: 'Call-out', unit_price: 5000 }],
      worth: 120,
      respond_minutes: null,
      resolve_minutes: 1440,
    });
  });

  it('says what its parts are called now, and gives a new one its name', async () => {
    const { user } = await show();
    const parts = await screen.findByLabelText(/^Parts to take/);
    await waitFor(() => expect(parts).toHaveValue('2 Roller, 40 mm'));
    await user.type(parts, '\n3 Gear oil');
    await save(user);
    await waitFor(() => expect(body()).toMatchObject({ parts: { 'door-roller': 2, 'gear-oil': 3 } }));
    expect(askedOf(NAME)[0]?.body).toEqual({ names: ['Gear oil'] });
  });

  it('keeps its code', async () => {
    await show();
    expect(await screen.findByLabelText('Code')).toBeDisabled();
  });

  it('of a new kind is made', async () => {
    const { user, onKept } = await show(null);
    await user.type(await screen.findByLabelText('Name'), 'Rope change');
    await user.type(screen.getByLabelText(/^Code/), 'rope');
    await user.type(screen.getByLabelText(/^Usual length/), '4:00');
    await user.clear(screen.getByLabelText('Crew'));
    await user.type(screen.getByLabelText('Crew'), '2');
    await save(user);
    await waitFor(() => expect(onKept).toHaveBeenCalledWith(9));
    expect(body()).toMatchObject({
      name: 'Rope change',
      code: 'rope',
      duration_seconds: 14_400,
      crew: 2,
      worth: null,
    });
  });

  it.each([
    [/^Usual length/, 'long', 'Minutes, or 1:30'],
    ['Crew', 'two', 'A whole number'],
    ['Respond within (min)', 'soon', 'A whole number'],
    [/^Usually brings/, '12.5', 'A whole number'],
  ])('is not sent while %s cannot be read', async (label, typed, words) => {
    const { user } = await show();
    const field = await screen.findByLabelText(label);
    await user.clear(field);
    await user.type(field, typed);
    await user.tab();
    expect(await screen.findByText(words)).toBeVisible();
    await save(user);
    expect(asked.filter((row) => row.method === 'PUT')).toHaveLength(0);
  });

  it('stays as typed when somebody else was faster', async () => {
    const { user } = await show(JOB, () => {
      throw new Refusal(409, { code: 'stale', title: 'Changed by Ada Reyne since.' });
    });
    const name = await screen.findByLabelText('Name');
    await user.type(name, ', sliding');
    await save(user);
    expect(await screen.findByText('Changed by Ada Reyne since.')).toBeInTheDocument();
    expect(name).toHaveValue('Noisy door, sliding');
  });

  it('offers times in a way of its own where it differs', async () => {
    const { user } = await show();
    await user.click(await screen.findByText('Offering a time, where it differs'));
    await user.type(screen.getByLabelText('Near means within (m)'), '1500');
    await save(user);
    await waitFor(() => expect(body()?.offers).toMatchObject({ near_metres: expect.anything() }));
  });

  it('gets a checklist without code', async () => {
    const { user } = await show();
    const [checklist] = await screen.findAllByRole('button', { name: 'Add a question' });
    await user.click(checklist!);
    await user.type(
      within(screen.getByRole('group', { name: 'Question 1' })).getByLabelText('Words'),
      'Pit dry?',
    );
    await save(user);
    await waitFor(() => expect(body()?.questions).toMatchObject([{ label: 'Pit dry?' }]));
  });

  it('is only read by whoever may not change the set-up', async () => {
    await show(JOB, JOB, false);
    expect(await screen.findByLabelText('Name')).toBeDisabled();
  });
});

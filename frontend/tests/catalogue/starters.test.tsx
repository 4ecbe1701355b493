import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { JobTypesPage } from '@/features/catalogue/pages';
import { draw } from '../drawn';
import { askedOf, Refusal, serve } from '../server';

const TAKE = 'POST /api/v1/catalogue/starters';
const job = (code: string, name: string, is_ours = false) => ({
  code,
  name,
  minutes: 90,
  priority: 3,
  crew: 1,
  skills: ['Doors'],
  is_ours,
});
const show = (more: Record<string, unknown> = {}) => {
  serve({
    'GET /api/v1/catalogue/job-types': [],
    'GET /api/v1/catalogue/starters': [
      {
        key: 'doors',
        name: 'Doors',
        jobs: [job('stuck', 'Stuck'), job('noisy', 'Noisy'), job('old', 'Old', true)],
      },
      { key: 'it', name: 'IT', jobs: [job('printer', 'Printer fault')] },
    ],
    [TAKE]: [{}, {}],
    ...more,
  });
  return draw(<JobTypesPage />, { may: ['use', 'change_settings'] });
};

describe('job types of a trade', () => {
  it('are ticked, a whole trade at once too, and made', async () => {
    const { user } = await show();
    await user.click(await screen.findByRole('button', { name: 'From a trade' }));
    const doors = within(await screen.findByRole('group', { name: /^Doors/ }));
    expect(doors.getByRole('checkbox', { name: /Old is there already/ })).toBeDisabled();
    await user.click(doors.getByRole('button', { name: 'all of doors' }));
    await user.click(doors.getByRole('checkbox', { name: /Noisy/ }));
    await user.click(screen.getByRole('checkbox', { name: /Printer fault/ }));
    await user.click(screen.getByRole('button', { name: 'Make 2 job types' }));
    await waitFor(() => expect(askedOf(TAKE)[0]?.body).toEqual({ codes: ['stuck', 'printer'] }));
    expect(await screen.findByText('2 job types are made')).toBeVisible();
    expect(screen.queryByRole('group', { name: /^Doors/ })).toBeNull();
  });

  it('stay ticked when making them is refused', async () => {
    const { user } = await show({
      [TAKE]: () => {
        throw new Refusal(422, { code: 'rejected', title: 'Not now.' });
      },
    });
    await user.click(await screen.findByRole('button', { name: 'From a trade' }));
    await user.click(await screen.findByRole('checkbox', { name: /Stuck/ }));
    await user.click(screen.getByRole('button', { name: /Make 1 job type/ }));
    expect(await screen.findByText('Not now.')).toBeVisible();
    expect(screen.getByRole('checkbox', { name: /Stuck/ })).toBeChecked();
  });
});

import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { DepotsPage } from '@/features/set_up/depots/DepotsPage';
import { draw } from '../drawn';
import { askedOf, serve } from '../server';

const YARD = {
  id: 1,
  version: 4,
  name: 'Yard',
  address: 'Millrace Road 1',
  lon: -24.6,
  lat: 47.2,
  retired: false,
};
const SOUTH = { ...YARD, id: 2, version: 1, name: 'South yard' };
const show = (depots = [YARD], canChange = true) => {
  serve({
    'GET /api/v1/company': { name: 'Test', areas: [], depots },
    'PUT /api/v1/depots/1': { ...YARD, version: 5 },
    'POST /api/v1/depots': YARD,
    'GET /api/v1/people/depots/1/uses': [{ what: 'technicians', count: 3 }],
    'POST /api/v1/depots/1/retired': { ...YARD, retired: true },
    'POST /api/v1/people/depots/1/merge': {},
  });
  return draw(<DepotsPage />, { may: canChange ? ['use', 'change_settings'] : ['use'] });
};

describe('depots', () => {
  it('are renamed with the version that was seen, and stay where they are', async () => {
    const { user } = await show();
    await user.click(await screen.findByRole('button', { name: 'Change Yard' }));
    const form = within(screen.getByRole('form', { name: 'Depot' }));
    await user.clear(form.getByLabelText('Name'));
    await user.type(form.getByLabelText('Name'), 'North yard');
    await user.click(form.getByRole('button', { name: 'Save depot' }));
    await waitFor(() =>
      expect(askedOf('PUT /api/v1/depots/1')[0]?.body).toEqual({
        version: 4,
        name: 'North yard',
        address: 'Millrace Road 1',
        lon: -24.6,
        lat: 47.2,
      }),
    );
  });

  it('are not made without a place', async () => {
    const { user } = await show([]);
    expect(await screen.findByText(/There is no depot yet/)).toBeVisible();
    await user.click(screen.getByRole('button', { name: 'New depot' }));
    const form = within(screen.getByRole('form', { name: 'Depot' }));
    await user.type(form.getByLabelText('Name'), 'Yard');
    await user.click(form.getByRole('button', { name: 'Save depot' }));
    expect(await form.findByText('Choose the address from the list')).toBeVisible();
    expect(askedOf('POST /api/v1/depots')).toHaveLength(0);
  });

  it('say who is there before they are retired or merged', async () => {
    const { user } = await show([YARD, SOUTH]);
    await user.click(await screen.findByRole('button', { name: 'Change Yard' }));
    const part = within(screen.getByRole('region', { name: 'Who uses Yard' }));
    expect(await part.findByText('Used by 3 technicians.')).toBeVisible();
    await user.click(part.getByRole('button', { name: 'Retire it' }));
    await waitFor(() =>
      expect(askedOf('POST /api/v1/depots/1/retired')[0]?.body).toEqual({ version: 4, retired: true }),
    );
    await user.selectOptions(part.getByLabelText('Merge into'), 'South yard');
    expect(part.getByText(/Days before today stay as they were/)).toBeVisible();
    await user.click(part.getByRole('button', { name: 'Merge Yard into South yard' }));
    await waitFor(() =>
      expect(askedOf('POST /api/v1/people/depots/1/merge')[0]?.body).toEqual({ version: 4, into: 2 }),
    );
  });

  it('are only read by whoever may not change the set-up', async () => {
    await show([YARD], false);
    expect(await screen.findByText('Yard')).toBeVisible();
    expect(screen.queryByRole('button')).toBeNull();
  });
});

import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { VehiclesPage } from '@/features/company/names/NamesPage';
import { draw } from '../drawn';
import { askedOf, serve } from '../server';

const FACTS = 'PUT /api/v1/people/vehicles/van-7/facts';
const VAN = {
  code: 'van-7',
  name: 'Van 7',
  version: 2,
  plate: 'IR-07',
  depot_id: null,
  inspection_due: '2026-11-01',
  cost_per_km: '0.42',
  drivers: ['Ines Falk'],
};
const show = (canChange: boolean) => {
  serve({
    'GET /api/v1/people/vehicles': [{ code: 'van-7', name: 'Van 7', retired: false, version: 2 }],
    'GET /api/v1/people/vehicles/van-7/uses': [{ what: 'drivers', count: 1 }],
    'GET /api/v1/people/vehicles/van-7': VAN,
    'GET /api/v1/company': {
      name: 'Test',
      currency: 'EUR',
      areas: [],
      depots: [{ id: 4, name: 'Northlock' }],
    },
    [FACTS]: { ...VAN, version: 3 },
  });
  return draw(<VehiclesPage />, { may: canChange ? ['use', 'change_settings'] : ['use'] });
};

describe('a vehicle', () => {
  it('says who drives it and that its inspection is overdue, and is changed with the version seen', async () => {
    const { user } = await show(true);
    await user.click(await screen.findByRole('button', { name: /Van 7/ }));
    expect(await screen.findByText('Driven by Ines Falk.')).toBeVisible();
    expect(screen.getByText('The inspection is overdue.')).toBeVisible();
    await user.selectOptions(screen.getByLabelText('Depot'), 'Northlock');
    await user.click(screen.getByRole('button', { name: 'Save vehicle' }));
    await waitFor(() =>
      expect(askedOf(FACTS)[0]?.body).toEqual({
        version: 2,
        plate: 'IR-07',
        depot_id: 4,
        inspection_due: '2026-11-01',
        cost_per_km: '0.42',
      }),
    );
  });

  it('shows its facts to nobody who may not change them', async () => {
    const { user } = await show(false);
    await user.click(await screen.findByRole('button', { name: /Van 7/ }));
    expect(await screen.findByText('Used by 1 driver.')).toBeVisible();
    expect(screen.queryByLabelText('Number plate')).toBeNull();
  });
});

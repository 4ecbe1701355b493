import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { TermsForm } from '@/features/set_up/people/TermsForm';
import { saidOf, wishesOf } from '@/features/set_up/people/wishes';
import { draw } from '../drawn';
import { askedOf, serve } from '../server';

const INES = { id: 3, version: 7, name: 'Ines Falk' } as never;
const TERMS = {
  version: 7,
  home_address: '',
  home_lon: null,
  home_lat: null,
  starts_at_home: false,
  ends_at_home: false,
  vehicle: 'van-7',
  cost_per_hour: '41.50',
  holiday_days: 25,
  liked_skills: [],
  avoided_skills: ['rescue'],
  liked_areas: [4],
  avoided_areas: [],
};
const PUT = 'PUT /api/v1/technicians/3/terms';
const show = () => {
  serve({
    'GET /api/v1/technicians/3/terms': TERMS,
    'GET /api/v1/company': { name: 'Test', currency: 'EUR', areas: [{ id: 4, name: 'Hale' }], depots: [] },
    'GET /api/v1/people/skills': [
      { code: 'doors', name: 'Door drives', retired: false },
      { code: 'rescue', name: 'Rescue', retired: false },
    ],
    'GET /api/v1/people/vehicles': [
      { code: 'van-7', name: 'Van 7', retired: true },
      { code: 'van-8', name: 'Van 8', retired: false },
      { code: 'van-9', name: 'Van 9', retired: true },
    ],
    [PUT]: { ...TERMS, version: 8 },
  });
  return draw(<TermsForm person={INES} />, { may: ['use', 'change_settings'] });
};

describe('the way somebody works', () => {
  it('is saved with the version that was seen, and the wishes by what they are about', async () => {
    const { user } = await show();
    const form = within(await screen.findByRole('form', { name: 'Way of working' }));
    await user.selectOptions(await form.findByLabelText('Vehicle'), 'Van 8');
    await user.clear(form.getByLabelText('Cost of an hour, EUR'));
    await user.type(form.getByLabelText('Cost of an hour, EUR'), '43,5');
    await user.selectOptions(form.getByLabelText('Add a wish'), 'Door drives');
    await user.click(form.getByRole('button', { name: 'No wish about Hale' }));
    await user.click(form.getByRole('button', { name: 'Save way of working' }));
    await waitFor(() => expect(askedOf(PUT)).toHaveLength(1));
    expect(askedOf(PUT)[0]!.body).toMatchObject({
      version: 7,
      vehicle: 'van-8',
      cost_per_hour: '43.5',
      liked_skills: ['doors'],
      avoided_skills: ['rescue'],
      liked_areas: [],
    });
  });

  it('offers no retired vehicle but the one that is driven', async () => {
    await show();
    const vehicle = await screen.findByLabelText('Vehicle');
    await waitFor(() =>
      expect([...vehicle.querySelectorAll('option')].map((one) => one.textContent)).toEqual([
        'none',
        'Van 7',
        'Van 8',
      ]),
    );
  });

  it('does not begin at a home that is not known', async () => {
    const { user } = await show();
    await user.click(await screen.findByLabelText('The day begins at home, not at the depot'));
    await user.click(screen.getByRole('button', { name: 'Save way of working' }));
    expect(await screen.findByText('Choose the home address from the list first')).toBeVisible();
    expect(askedOf(PUT)).toHaveLength(0);
  });

  it('keeps each wish once, both ways', () => {
    const said = { liked_skills: ['a:b'], avoided_skills: ['c'], liked_areas: [1], avoided_areas: [2] };
    expect(saidOf(wishesOf(said))).toEqual(said);
  });
});

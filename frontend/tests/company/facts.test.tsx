import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { CompanyPage, HolidaysPage } from '@/features/company/pages';
import { draw } from '../drawn';
import { askedOf, Refusal, serve } from '../server';

const COMPANY = {
  version: 3,
  name: 'Test Lifts',
  time_zone: 'Atlantic/Azores',
  currency: 'EUR',
  address: '',
  phone: '',
  email: '',
  tax_number: '',
  country: 'PT',
  region: '',
  logo: '',
  areas: [],
  depots: [],
};
const COUNTRIES = [
  { code: 'PT', regions: [{ key: '20', name: 'Azores' }] },
  { code: 'JP', regions: [] },
];
const PUBLIC = '/api/v1/company/holidays/public';
const show = (page = <CompanyPage />, more: Record<string, unknown> = {}, canChange = true) => {
  serve({
    'GET /api/v1/company': COMPANY,
    'GET /api/v1/company/countries': COUNTRIES,
    'GET /api/v1/company/holidays': [],
    [`GET ${PUBLIC}`]: [
      { day: '2027-01-01', name: 'New Year', is_ours: true },
      { day: '2027-05-01', name: 'Labour Day', is_ours: false },
      { day: '2027-12-25', name: 'Christmas', is_ours: false },
    ],
    ...more,
  });
  return draw(page, { may: canChange ? ['use', 'change_settings'] : ['use'] });
};

describe('the company', () => {
  it('is changed with the version that was seen; a refusal stands at its field', async () => {
    const { user } = await show(<CompanyPage />, {
      'PUT /api/v1/company': () => {
        throw new Refusal(422, {
          code: 'rejected',
          title: 'There are visits already.',
          field: 'time_zone',
        });
      },
    });
    const form = within(await screen.findByRole('form', { name: 'Company' }));
    await user.selectOptions(await form.findByLabelText('Region'), 'Azores');
    await user.selectOptions(form.getByLabelText('Time zone'), 'Europe/Lisbon');
    await user.click(form.getByRole('button', { name: 'Save company' }));
    expect(await form.findByText('There are visits already.')).toBeVisible();
    expect(askedOf('PUT /api/v1/company')[0]!.body).toMatchObject({
      version: 3,
      name: 'Test Lifts',
      country: 'PT',
      region: '20',
      time_zone: 'Europe/Lisbon',
    });
  });

  it('calls countries by their names', async () => {
    await show();
    expect(await screen.findByRole('option', { name: 'Portugal' })).toBeInTheDocument();
    expect(screen.getByRole('option', { name: 'Japan' })).toBeInTheDocument();
  });

  it('is read only for who may not change it', async () => {
    await show(<CompanyPage />, {}, false);
    expect(await screen.findByLabelText('Name')).toBeDisabled();
    expect(screen.queryByRole('button', { name: 'Save company' })).toBeNull();
    expect(screen.queryByText('Choose a logo')).toBeNull();
  });
});

describe('public holidays', () => {
  it('are read before they are taken, without those that are left out', async () => {
    const { user } = await show(<HolidaysPage />, { [`POST ${PUBLIC}`]: [] });
    await user.click(await screen.findByRole('button', { name: '2027' }));
    const list = within(await screen.findByRole('list', { name: 'Public holidays of 2027' }));
    expect(list.getByRole('checkbox', { name: /New Year/ })).toBeDisabled();
    await user.click(list.getByRole('checkbox', { name: /Labour Day/ }));
    await user.click(screen.getByRole('button', { name: 'Add one day' }));
    await waitFor(() =>
      expect(askedOf(`POST ${PUBLIC}`)[0]?.body).toEqual({
        country: 'PT',
        region: '',
        year: 2027,
        days: ['2027-12-25'],
      }),
    );
  });

  it('ask for the country first', async () => {
    await show(<HolidaysPage />, { 'GET /api/v1/company': { ...COMPANY, country: '' } });
    expect(await screen.findByRole('link', { name: 'Say in which country the company is' })).toHaveAttribute(
      'href',
      '/set-up/company',
    );
  });
});

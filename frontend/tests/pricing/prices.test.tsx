import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { PricesPage } from '@/features/pricing/pages';
import { draw } from '../drawn';
import { askedOf, Refusal, serve } from '../server';

const FULL = {
  id: 1,
  key: 'full-rate',
  version: 1,
  name: 'Full rate',
  category: 'standard',
  reason: '',
  rates: [{ percent: '23', valid_from: '2026-01-01' }],
  percent: '23',
  retired: false,
};
const HOUR = {
  id: 4,
  key: 'hour',
  version: 2,
  kind: 'labour',
  wording: 'Hour of a fitter',
  unit: 'HUR',
  price: 5800,
  cost: 3200,
  effort: null,
  tax: 'full-rate',
  retired: false,
};
const LIST = { id: 7, version: 1, name: 'Harbour', retired: false, price_count: 1, customer_count: 3 };
const PRICE = {
  id: 9,
  item_id: 4,
  wording: 'Hour of a fitter',
  unit: 'HUR',
  price: 5400,
  standard: 5800,
  valid_from: '2026-11-02',
  valid_until: null,
  least: '0.000',
};

const show = (more: Record<string, unknown> = {}, canChange = true) => {
  serve({
    'GET /api/v1/company': { currency: 'EUR', areas: [], depots: [] },
    'GET /api/v1/pricing/units': [
      { code: 'C62', name: 'piece' },
      { code: 'HUR', name: 'hour' },
    ],
    'GET /api/v1/pricing/tax-codes': [FULL],
    'GET /api/v1/pricing/items': [HOUR],
    'GET /api/v1/pricing/lists': [LIST],
    'GET /api/v1/pricing/prices': [PRICE],
    ...more,
  });
  return draw(<PricesPage />, { may: canChange ? ['use', 'change_settings'] : ['use'] });
};

describe('the price list', () => {
  it('is changed beside itself, and says what is left with what is typed', async () => {
    const { user } = await show({ 'PUT /api/v1/pricing/items/4': { ...HOUR, version: 3, price: 6000 } });
    await user.click(await screen.findByRole('button', { name: 'Hour of a fitter' }));
    const form = within(await screen.findByRole('form', { name: 'Item' }));
    expect(form.getByRole('status')).toHaveTextContent('€71.34 with tax; €26.00 are left, 45 %');
    const field = form.getByLabelText('Price without tax, EUR');
    await user.clear(field);
    await user.type(field, '60');
    expect(form.getByRole('status')).toHaveTextContent('€73.80 with tax; €28.00 are left, 47 %');
    await user.click(form.getByRole('button', { name: 'Save changes' }));
    await waitFor(() =>
      expect(askedOf('PUT /api/v1/pricing/items/4')[0]?.body).toMatchObject({
        version: 2,
        price: 6000,
        cost: 3200,
        effort: null,
      }),
    );
  });

  it('says at its field what is no amount, and what the server refuses', async () => {
    const { user } = await show({
      'POST /api/v1/pricing/items': () => {
        throw new Refusal(422, { code: 'rejected', title: 'There is one already.', field: 'wording' });
      },
    });
    await user.click(await screen.findByRole('button', { name: 'New item' }));
    const form = within(await screen.findByRole('form', { name: 'Item' }));
    await user.type(form.getByLabelText(/Wording/), 'Hour of a fitter');
    await user.type(form.getByLabelText('Price without tax, EUR'), '5x');
    await user.click(form.getByRole('button', { name: 'Add to the price list' }));
    expect(await form.findByText('An amount, like 58.00')).toBeVisible();
    await user.clear(form.getByLabelText('Price without tax, EUR'));
    await user.type(form.getByLabelText('Price without tax, EUR'), '5,50');
    await user.click(form.getByRole('button', { name: 'Add to the price list' }));
    expect(await form.findByText('There is one already.')).toBeVisible();
    expect(askedOf('POST /api/v1/pricing/items')[0]?.body).toMatchObject({ price: 550, tax: 'full-rate' });
  });

  it('asks for tax codes first', async () => {
    await show({ 'GET /api/v1/pricing/tax-codes': [], 'GET /api/v1/pricing/items': [] });
    expect(await screen.findByText(/Say first how things are taxed/)).toBeVisible();
    expect(screen.queryByRole('button', { name: 'New item' })).toBeNull();
  });

  it('is only read by whoever may not change the set-up', async () => {
    const { user } = await show({}, false);
    await user.click(await screen.findByRole('button', { name: 'Hour of a fitter' }));
    const form = within(await screen.findByRole('form', { name: 'Item' }));
    expect(form.getByLabelText(/Wording/)).toBeDisabled();
    expect(form.queryByRole('button')).toBeNull();
  });
});

describe('a list of prices', () => {
  const open = async (more: Record<string, unknown> = {}) => {
    const { user } = await show(more);
    await user.click(await screen.findByRole('button', { name: "Customers' lists" }));
    await user.click(await screen.findByRole('button', { name: /Harbour/ }));
    return { user, part: within(await screen.findByRole('region', { name: 'Harbour' })) };
  };

  it('has prices from a day on', async () => {
    const { user, part } = await open({ 'POST /api/v1/pricing/prices': PRICE });
    const rows = within(await part.findByRole('list', { name: 'Prices' }));
    expect(rows.getByRole('listitem')).toHaveTextContent('Hour of a fitterfrom Mon 2 Nov€58.00€54.00');
    const form = within(part.getByRole('form', { name: 'Set a price' }));
    await user.selectOptions(form.getByLabelText('Item'), 'Hour of a fitter (€58.00)');
    await user.type(form.getByLabelText('Price, EUR'), '52');
    await user.click(form.getByRole('button', { name: 'Set it' }));
    await waitFor(() =>
      expect(askedOf('POST /api/v1/pricing/prices')[0]?.body).toEqual({
        list_id: 7,
        item_id: 4,
        price: 5200,
        least: '0',
        valid_from: '2026-11-27',
      }),
    );
  });

  it('is raised as it was read', async () => {
    const told = [{ item_id: 4, wording: 'Hour of a fitter', least: '0', before: 5400, after: 5600 }];
    const { user, part } = await open({ 'POST /api/v1/pricing/raise': told });
    const form = within(await part.findByRole('form', { name: 'Change all prices' }));
    await user.type(form.getByLabelText('By percent'), '3,5');
    await user.click(form.getByRole('button', { name: 'Show what becomes of them' }));
    expect(await form.findByText('€56.00')).toBeVisible();
    await user.click(form.getByRole('button', { name: 'Change this price' }));
    await waitFor(() => expect(askedOf('POST /api/v1/pricing/raise')).toHaveLength(2));
    const [read, done] = askedOf('POST /api/v1/pricing/raise').map(({ body }) => body as object);
    expect(read).toMatchObject({ percent: '3.5', sure: false });
    expect(done).toEqual({ ...read, sure: true });
  });
});

describe('a tax code', () => {
  it('has rates that change on days', async () => {
    const { user } = await show({ 'PUT /api/v1/pricing/tax-codes/1': { ...FULL, version: 2 } });
    await user.click(await screen.findByRole('button', { name: 'Tax codes' }));
    await user.click(await screen.findByRole('button', { name: /Full rate/ }));
    const form = within(await screen.findByRole('form', { name: 'Tax code' }));
    await user.click(form.getByRole('button', { name: 'Add a rate' }));
    await user.type(form.getAllByLabelText('Percent')[1]!, '24,5');
    await user.click(form.getByRole('button', { name: 'Save changes' }));
    await waitFor(() =>
      expect(askedOf('PUT /api/v1/pricing/tax-codes/1')[0]?.body).toMatchObject({
        version: 1,
        rates: [
          { percent: '23', valid_from: '2026-01-01' },
          { percent: '24.5', valid_from: '2026-11-27' },
        ],
      }),
    );
  });
});

import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import type { SchemaOrderDetailOut } from '@/api/types';
import { OrderForm } from '@/features/orders/page/OrderForm';
import { draw } from '../../drawn';
import { askedOf, Refusal, serve } from '../../server';

const KEEP = 'PUT /api/v1/orders/31';
const asset = (id: number, serial: string) => ({ id, kind: 'Automatic door', make: 'Orrin', serial });
const ORDER = {
  id: 31,
  version: 5,
  number: 'W-31',
  title: 'Noisy door',
  description: 'Rattles',
  asset: asset(1, 'OR-1'),
  more_assets: [],
  customer: { id: 4, name: 'Seagate Stores', needs_po_number: true },
  site: { id: 9, name: 'Seagate Hall' },
  payer: null,
  payer_address: '',
  contact_name: 'Mia',
  contact_phone: '+351 1',
  source: 'phone',
  billing: 'billable',
  po_number: '',
  priority: 3,
  tags: ['warranty'],
  technician_note: '',
  invoice_text: '',
  questions: [],
  extra: {},
} as unknown as SchemaOrderDetailOut;

const show = async (answer: unknown = ORDER) => {
  serve({
    [KEEP]: answer,
    'GET /api/v1/company/settings': {
      version: 1,
      settings: [
        { key: 'sources', value: ['phone', 'e-mail'] },
        { key: 'tags', value: ['warranty', 'complaint'] },
      ],
    },
    'GET /api/v1/customers/4': { id: 4, sites: [{ id: 9, assets: [asset(1, 'OR-1'), asset(2, 'OR-2')] }] },
    'GET /api/v1/customers': [],
  });
  const onDone = vi.fn();
  return { onDone, ...(await draw(<OrderForm order={ORDER} onDone={onDone} />)) };
};
const keep = () => screen.getByRole('button', { name: 'Save changes' });
const body = () => askedOf(KEEP)[0]?.body as Record<string, unknown> | undefined;

describe('the facts of an order', () => {
  it('are kept as they were where nothing was typed', async () => {
    const { user, onDone } = await show();
    await user.selectOptions(await screen.findByLabelText('Priority'), '2');
    await user.type(screen.getByLabelText('Purchase-order number *'), 'PO 7');
    await user.click(keep());
    await waitFor(() => expect(onDone).toHaveBeenCalled());
    expect(body()).toEqual({
      version: 5,
      title: 'Noisy door',
      description: 'Rattles',
      asset_id: 1,
      more_asset_ids: [],
      payer_id: null,
      payer_address: '',
      contact_name: 'Mia',
      contact_phone: '+351 1',
      source: 'phone',
      billing: 'billable',
      po_number: 'PO 7',
      priority: 2,
      tags: ['warranty'],
      technician_note: '',
      invoice_text: '',
      extra: {},
    });
  });

  it('are about the equipment that was ticked first', async () => {
    const { user } = await show();
    const first = await screen.findByLabelText(/OR-1/);
    await user.click(screen.getByLabelText(/OR-2/));
    await user.click(first);
    expect(screen.getByLabelText(/OR-2/).closest('label')).toHaveTextContent('first');
    await user.click(first);
    await user.click(keep());
    await waitFor(() => expect(body()).toMatchObject({ asset_id: 2, more_asset_ids: [1] }));
  });

  it('say at the field what the customer needs, and stay as typed', async () => {
    const { user, onDone } = await show(() => {
      throw new Refusal(422, {
        code: 'missing',
        title: 'Seagate Stores needs a number.',
        field: 'po_number',
      });
    });
    await user.type(await screen.findByLabelText('Text on the invoice'), 'As agreed');
    await user.click(keep());
    expect(await screen.findByText('Seagate Stores needs a number.')).toBeVisible();
    expect(screen.getByLabelText('Purchase-order number *')).toHaveFocus();
    expect(screen.getByLabelText('Text on the invoice')).toHaveValue('As agreed');
    expect(onDone).not.toHaveBeenCalled();
  });
});

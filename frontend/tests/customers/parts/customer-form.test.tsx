import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import type { SchemaCustomerDetailOut } from '@/api/types';
import { CustomerForm } from '@/features/customers/page/CustomerForm';
import { draw } from '../../drawn';
import { askedOf, Refusal, serve } from '../../server';

const KEEP = 'PUT /api/v1/customers/4';
const CUSTOMER = {
  id: 4,
  version: 3,
  name: 'Seagate Stores',
  phone: '+351 296 555 100',
  email: 'office@seagate.example',
  payer: null,
  payer_address: '',
  needs_po_number: false,
  tags: [],
  extra: {},
} as unknown as SchemaCustomerDetailOut;
const CLAIM = { key: 'claim', label: 'Claim number', kind: 'text', required: 'to create' };

const show = async (answer: unknown = CUSTOMER) => {
  serve({
    [KEEP]: answer,
    'GET /api/v1/company/fields': [{ record: 'customer', version: 1, questions: [CLAIM] }],
    'GET /api/v1/company/settings': { version: 1, groups: [], settings: [] },
    'GET /api/v1/customers': [],
  });
  const onDone = vi.fn();
  return { onDone, ...(await draw(<CustomerForm customer={CUSTOMER} onDone={onDone} />)) };
};
const keep = () => screen.getByRole('button', { name: 'Save changes' });
const body = () => askedOf(KEEP)[0]?.body as Record<string, unknown> | undefined;

describe('a customer', () => {
  it('is changed with everything that was there', async () => {
    const { user, onDone } = await show();
    await user.type(await screen.findByLabelText('Name'), ' Ltd');
    await user.type(screen.getByLabelText('or billed to this address'), 'Quay 4');
    await user.click(screen.getByLabelText(/^Wants a purchase-order/));
    await user.click(keep());
    await waitFor(() => expect(onDone).toHaveBeenCalled());
    expect(body()).toMatchObject({
      version: 3,
      name: 'Seagate Stores Ltd',
      phone: '+351 296 555 100',
      payer_id: null,
      payer_address: 'Quay 4',
      needs_po_number: true,
    });
  });

  it.each([
    ['Name', '', 'A customer needs a name.'],
    ['E-mail', 'office', /^An e-mail address/],
  ])('is not sent with %s “%s”', async (label, typed, words) => {
    const { user } = await show();
    const field = await screen.findByLabelText(label);
    await user.clear(field);
    if (typed) await user.type(field, typed);
    await user.click(keep());
    expect(await screen.findByText(words)).toBeVisible();
    expect(askedOf(KEEP)).toHaveLength(0);
  });

  it('leads to the own field that the server wants, and loses nothing', async () => {
    const { user, onDone } = await show(() => {
      throw new Refusal(422, { code: 'rejected', title: 'Claim number: too long.', field: 'extra.claim' });
    });
    await user.type(await screen.findByLabelText(/Claim number/), 'K-77');
    await user.click(keep());
    expect(await screen.findByText('Claim number: too long.')).toBeVisible();
    expect(screen.getByLabelText(/Claim number/)).toHaveFocus();
    expect(screen.getByLabelText(/Claim number/)).toHaveValue('K-77');
    expect(onDone).not.toHaveBeenCalled();
  });
});

import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { SchemaCustomerDetailOut } from '@/api/types';
import { ContactList } from '@/features/customers/page/ContactList';
import { draw } from '../../drawn';
import { askedOf, Refusal, serve } from '../../server';

const PUT = 'PUT /api/v1/customers/5/contacts';
const CUSTOMER = {
  id: 5,
  version: 2,
  name: 'Seagate Stores',
  sites: [{ id: 9, name: 'Seagate Hall', address: 'Millrace Road 60' }],
  contacts: [
    {
      id: 3,
      version: 4,
      name: 'Ottilie Marsh',
      role: 'porter',
      phone: '+351 1',
      email: '',
      channel: 'call',
      site_id: 9,
    },
  ],
} as unknown as SchemaCustomerDetailOut;

const show = async (put: unknown = CUSTOMER, customer = CUSTOMER, canChange = true) => {
  serve({ [PUT]: put, 'DELETE /api/v1/customers/5/contacts/3': CUSTOMER });
  const drawn = await draw(<ContactList customer={customer} canChange={canChange} />);
  await screen.findByRole('region', { name: 'Contacts' });
  return drawn;
};

describe('contacts', () => {
  it('say how they want to be told and where they are', async () => {
    await show();
    expect(screen.getByRole('listitem')).toHaveTextContent(
      'Ottilie Marsh porter+351 1 · Seagate Hall · told by call',
    );
  });

  it('are added', async () => {
    const { user } = await show();
    await user.click(screen.getByRole('button', { name: 'add one' }));
    const form = screen.getByRole('form', { name: 'Contact' });
    await user.type(within(form).getByLabelText('Name'), 'Ben Cole');
    await user.type(within(form).getByLabelText('E-mail'), 'ben@example.org');
    await user.selectOptions(within(form).getByLabelText('Told by'), 'e-mail');
    await user.selectOptions(within(form).getByLabelText('At the site'), 'Seagate Hall');
    await user.click(within(form).getByRole('button', { name: 'Save contact' }));
    await waitFor(() =>
      expect(askedOf(PUT)[0]?.body).toMatchObject({
        id: null,
        name: 'Ben Cole',
        email: 'ben@example.org',
        channel: 'e-mail',
        site_id: 9,
      }),
    );
    await waitFor(() => expect(screen.queryByRole('form')).toBeNull());
  });

  it('are changed from what they are', async () => {
    const { user } = await show();
    await user.click(screen.getByRole('button', { name: 'Change' }));
    const role = screen.getByLabelText('Role');
    expect(role).toHaveValue('porter');
    await user.clear(role);
    await user.type(role, 'manager{Enter}');
    await waitFor(() =>
      expect(askedOf(PUT)[0]?.body).toMatchObject({ id: 3, role: 'manager', channel: 'call' }),
    );
  });

  it('keep what was typed when they are refused', async () => {
    const { user } = await show(() => {
      throw new Refusal(422, { code: 'rejected', title: 'That is no phone number.', field: 'phone' });
    });
    await user.click(screen.getByRole('button', { name: 'Change' }));
    await user.type(screen.getByLabelText('Phone'), 'x{Enter}');
    expect(await screen.findByText('That is no phone number.')).toBeVisible();
    expect(screen.getByLabelText('Phone')).toHaveValue('+351 1x');
  });

  it('are removed in one press, and put back in one', async () => {
    const { user } = await show();
    await user.click(screen.getByRole('button', { name: 'Remove Ottilie Marsh' }));
    await waitFor(() => expect(askedOf('DELETE /api/v1/customers/5/contacts/3')).toHaveLength(1));
    await user.click(await screen.findByRole('button', { name: 'Undo' }));
    await waitFor(() => expect(askedOf(PUT)[0]?.body).toMatchObject({ id: null, name: 'Ottilie Marsh' }));
  });

  it('that look like somebody there are kept only when it is said that they are not', async () => {
    const { user } = await show((asked: { body: { anyway: boolean } }) => {
      if (asked.body.anyway) return CUSTOMER;
      throw new Refusal(422, { code: 'twin', title: 'Ben is there already with the same phone number.' });
    });
    await user.click(screen.getByRole('button', { name: 'add one' }));
    await user.type(screen.getByLabelText('Name'), 'Ben Cole{Enter}');
    await user.click(await screen.findByRole('button', { name: /somebody else/ }));
    await waitFor(() => expect(screen.queryByRole('form')).toBeNull());
  });

  it('may be nobody, and are only read by whoever may not change them', async () => {
    await show(CUSTOMER, { ...CUSTOMER, contacts: [] } as never, false);
    expect(screen.getByText('Nobody named yet.')).toBeVisible();
    expect(within(screen.getByRole('region', { name: 'Contacts' })).queryByRole('button')).toBeNull();
  });
});

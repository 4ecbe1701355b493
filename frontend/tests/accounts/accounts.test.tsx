import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { SchemaAccountRowOut } from '@/api/types';
import { AccountsPage } from '@/features/accounts/pages';
import { draw } from '../drawn';
import { askedOf, Refusal, serve } from '../server';

const row = (id: number, name: string, more: Partial<SchemaAccountRowOut> = {}): SchemaAccountRowOut => ({
  id,
  version: 1,
  name,
  email: `${name.split(' ')[0]!.toLowerCase()}@example.org`,
  role: 'dispatcher',
  role_name: 'dispatcher',
  own_role_id: null,
  technician_id: null,
  active: true,
  joined: true,
  second_factor: false,
  last_seen: null,
  ...more,
});
const deed = (action: string, words: string, brings: string[] = []) => ({
  action,
  words,
  brings,
  whole_company: action === 'import',
  own: true,
});
const ROLES = {
  deeds: [
    deed('see_board', 'see the board'),
    deed('plan', 'place visits', ['see_board']),
    deed('import', 'bring in files'),
  ],
  roles: [
    { role: 'dispatcher', duty: 'plans the day', actions: ['see_board'] },
    { role: 'technician', duty: 'works from a phone', actions: [] },
  ],
  own: [
    {
      id: 5,
      version: 2,
      name: 'Plans the north',
      duty: 'the north',
      actions: ['use', 'see_board'],
      area_ids: [7],
      depot_ids: [],
      holders: ['Rui Vale'],
    },
  ],
};
const show = (more: Record<string, unknown> = {}, may: 'manage_accounts' | 'use' = 'manage_accounts') => {
  serve({
    'GET /api/v1/accounts': [
      row(2, 'Ada Reyne', { second_factor: true }),
      row(3, 'Rui Vale', { joined: false, version: 4 }),
      row(4, 'Tom Ash', { active: false }),
    ],
    'GET /api/v1/roles': ROLES,
    'GET /api/v1/company': { areas: [{ id: 7, name: 'North' }], depots: [{ id: 8, name: 'Yard' }] },
    'GET /api/v1/technicians': [{ id: 9, name: 'Ines Falk', depot: 'N', has_hours: true }],
    ...more,
  });
  return draw(<AccountsPage />, { may: ['use', may] });
};
const open = async (user: Awaited<ReturnType<typeof draw>>['user'], name: RegExp) =>
  user.click(await screen.findByRole('button', { name }));

describe('accounts', () => {
  it('are for administrators', async () => {
    await show({}, 'use');
    expect(await screen.findByText(/decided by an administrator/)).toBeVisible();
    expect(askedOf('GET /api/v1/accounts')).toEqual([]);
  });

  it('say who came in, who was invited, who is locked out; and what each role may do', async () => {
    await show();
    const list = within(await screen.findByRole('list', { name: 'Accounts' }));
    expect(await list.findByRole('button', { name: /Rui Vale.*invited/ })).toBeVisible();
    expect(list.getByRole('button', { name: /Tom Ash.*locked out/ })).toBeVisible();
    expect(list.getByRole('button', { name: /Ada Reyne.*never here/ })).toBeVisible();
    const seen = within(await screen.findByRole('row', { name: /^see the board/ }));
    expect(seen.getAllByRole('cell').map((cell) => cell.firstElementChild?.ariaLabel)).toEqual([
      'yes',
      'no',
      'yes',
    ]);
    const files = within(screen.getByRole('row', { name: /^bring in files/ }));
    expect(files.getAllByRole('cell').map((cell) => cell.firstElementChild?.ariaLabel)).toEqual([
      'no',
      'no',
      'no',
    ]);
  });

  it('are made by an invitation; what is refused stands at its field', async () => {
    const { user } = await show({
      'POST /api/v1/accounts': () => {
        throw new Refusal(422, { code: 'rejected', title: 'Ines has an account already.', field: 'email' });
      },
    });
    await open(user, /Invite somebody/);
    const form = within(screen.getByRole('form', { name: 'Invite somebody' }));
    await user.type(form.getByLabelText('E-mail'), 'ines@example.org');
    await user.type(form.getByLabelText('Name'), 'Ines Falk');
    await user.selectOptions(await form.findByLabelText('Role'), 'technician');
    await user.selectOptions(form.getByLabelText('Works from the phone as'), 'Ines Falk');
    await user.click(form.getByRole('button', { name: 'Send the invitation' }));
    expect(await form.findByText('Ines has an account already.')).toBeVisible();
    expect(askedOf('POST /api/v1/accounts')[0]!.body).toEqual({
      email: 'ines@example.org',
      name: 'Ines Falk',
      role: 'technician',
      own_role_id: null,
      technician_id: 9,
    });
  });

  it('keep as whom somebody works, however late the technicians are known', async () => {
    const technicians = [{ id: 9, name: 'Ines Falk', depot: 'N', has_hours: true }];
    const { user } = await show({
      'GET /api/v1/accounts': [row(6, 'Ines Falk', { role: 'technician', technician_id: 9 })],
      'GET /api/v1/technicians': () => new Promise((come) => setTimeout(() => come(technicians), 300)),
      'GET /api/v1/field/phones/of/6': [],
    });
    await open(user, /Ines Falk/);
    expect(await screen.findByLabelText('Works from the phone as')).toHaveDisplayValue('Ines Falk');
  });

  it('that wait for their owner show the link once more', async () => {
    const { user } = await show({
      'POST /api/v1/accounts/3/invitation': { link: 'http://relay.example/welcome/3-x' },
    });
    await open(user, /Rui Vale/);
    await user.click(screen.getByRole('button', { name: 'Send the invitation again and show its link' }));
    expect(await screen.findByLabelText('Link, to give to them in another way')).toHaveValue(
      'http://relay.example/welcome/3-x',
    );
  });

  it('are locked and opened with the version that was seen', async () => {
    const { user } = await show({ 'POST /api/v1/accounts/3/active': row(3, 'Rui Vale', { active: false }) });
    await open(user, /Rui Vale/);
    await user.click(screen.getByRole('button', { name: 'Let them sign in no more' }));
    await waitFor(() =>
      expect(askedOf('POST /api/v1/accounts/3/active')[0]?.body).toEqual({ version: 4, active: false }),
    );
    await open(user, /Tom Ash/);
    expect(screen.getByRole('button', { name: 'Let them sign in again' })).toBeVisible();
  });

  it('lose a second factor whose phone is lost', async () => {
    const { user } = await show({ 'DELETE /api/v1/accounts/2/second-factor': row(2, 'Ada Reyne') });
    await open(user, /Ada Reyne/);
    await user.click(screen.getByRole('button', { name: 'Phone lost: remove it' }));
    await waitFor(() => expect(askedOf('DELETE /api/v1/accounts/2/second-factor')).toHaveLength(1));
  });

  it('are given a role of the company’s own', async () => {
    const { user } = await show({ 'PUT /api/v1/accounts/2': row(2, 'Ada Reyne') });
    await open(user, /Ada Reyne/);
    const form = within(await screen.findByRole('form', { name: 'Account' }));
    await user.selectOptions(form.getByLabelText('Role'), 'Plans the north: the north');
    await user.click(form.getByRole('button', { name: 'Save changes' }));
    await waitFor(() =>
      expect(askedOf('PUT /api/v1/accounts/2')[0]?.body).toMatchObject({ role: 'own', own_role_id: 5 }),
    );
  });
});

describe('roles of the company’s own', () => {
  it('say what they do, where, and who has them', async () => {
    await show();
    expect(await screen.findByText('the north; changes work in North only; held by Rui Vale')).toBeVisible();
  });

  it('are put together; what is ticked brings along what it needs', async () => {
    const { user } = await show({ 'POST /api/v1/roles': ROLES.own[0] });
    await open(user, /Put a role of your own together/);
    const form = within(screen.getByRole('form', { name: 'A role of your own' }));
    await user.click(form.getByRole('button', { name: 'Make the role' }));
    expect(await form.findByText('Tick at least one thing')).toBeVisible();
    await user.type(form.getByLabelText('Name'), 'Plans the yard');
    await user.click(form.getByLabelText('place visits'));
    expect(form.getByLabelText('see the board')).toBeChecked();
    expect(form.getByLabelText('see the board')).toBeDisabled();
    await user.click(form.getByLabelText('Yard'));
    await user.click(form.getByRole('button', { name: 'Make the role' }));
    await waitFor(() =>
      expect(askedOf('POST /api/v1/roles')[0]?.body).toEqual({
        name: 'Plans the yard',
        duty: '',
        actions: ['plan'],
        area_ids: [],
        depot_ids: [8],
      }),
    );
  });

  it('that somebody has are changed, not removed', async () => {
    const { user } = await show({ 'PUT /api/v1/roles/5': ROLES.own[0] });
    await open(user, /Plans the north/);
    const form = within(screen.getByRole('form', { name: 'A role of your own' }));
    expect(form.getByRole('button', { name: 'Remove the role' })).toBeDisabled();
    expect(form.getByText(/holds at once for Rui Vale/)).toBeVisible();
    await user.click(form.getByLabelText('North'));
    await user.click(form.getByRole('button', { name: 'Save changes' }));
    await waitFor(() =>
      expect(askedOf('PUT /api/v1/roles/5')[0]?.body).toMatchObject({ version: 2, area_ids: [] }),
    );
  });
});

import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import type { SchemaCustomerDetailOut } from '@/api/types';
import { MergePanel } from '@/features/customers/page/MergePanel';
import { draw } from '../../drawn';
import { askedOf, Refusal, serve } from '../../server';

const customer = (id: number, name: string, more = {}) =>
  ({
    id,
    version: 1,
    name,
    phone: `+351 ${id}`,
    email: '',
    tags: [],
    sites: [{ id: id * 10, name: 'Hall', address: `Road ${id}` }],
    contacts: [{ id, name: `Contact ${id}` }],
    ...more,
  }) as unknown as SchemaCustomerDetailOut;
const KEPT = customer(5, 'Seagate Stores');
const OTHER = customer(6, 'Seagate Store');
const MERGE = 'POST /api/v1/customers/merges';

const show = async (merge: unknown = KEPT) => {
  serve({
    'GET /api/v1/customers/twins': [{ customer: OTHER, because: ['the same phone'], sites: [] }],
    'GET /api/v1/customers/6': OTHER,
    'GET /api/v1/customers': [],
    [MERGE]: merge,
  });
  const onDone = vi.fn();
  return { ...(await draw(<MergePanel kept={KEPT} onDone={onDone} />)), onDone };
};

describe('making two customers one', () => {
  it('offers likely twins, and shows both side by side before anything moves', async () => {
    const { user } = await show();
    expect(await screen.findByText('the same phone')).toBeVisible();
    await user.click(screen.getByRole('button', { name: /Choose it/ }));
    const table = await screen.findByRole('table');
    expect(within(table).getByText('Seagate Stores stays')).toBeVisible();
    expect(within(table).getByText('Seagate Store goes into it')).toBeVisible();
    expect(within(table).getByRole('row', { name: 'Sites Road 5 Road 6' })).toBeVisible();
    expect(within(table).getByRole('row', { name: 'E-mail – –' })).toBeVisible();
    expect(askedOf(MERGE)).toHaveLength(0);
  });

  it('merges the right way round, and is done', async () => {
    const { user, onDone } = await show();
    expect(await screen.findByRole('button', { name: 'Merge them' })).toBeDisabled();
    await user.click(await screen.findByRole('button', { name: /Choose it/ }));
    await user.click(screen.getByRole('button', { name: 'Merge them' }));
    await waitFor(() => expect(onDone).toHaveBeenCalled());
    expect(askedOf(MERGE)[0]!.body).toEqual({ kept_id: 5, gone_id: 6 });
  });

  it('says why it cannot be', async () => {
    const { user, onDone } = await show(() => {
      throw new Refusal(409, { code: 'stale', title: 'Seagate Store was merged already.' });
    });
    await user.click(await screen.findByRole('button', { name: /Choose it/ }));
    await user.click(screen.getByRole('button', { name: 'Merge them' }));
    expect(await screen.findByText('Seagate Store was merged already.')).toBeVisible();
    expect(onDone).not.toHaveBeenCalled();
  });
});

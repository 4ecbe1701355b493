import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { SchemaAction } from '@/api/types';
import { Ways } from '@/features/supply/tonight/Ways';
import { draw } from '../drawn';
import { askedOf, Refusal, serve } from '../server';

const WAYS = 'GET /api/v1/supply/ways';
const TAKE = 'POST /api/v1/supply/ways';
const need = {
  visit_id: 7,
  version: 3,
  order_id: 1,
  label: 'W-1',
  site: 'Seagate Hall',
  start: null,
  quantity: 1,
  van: 0,
  depot: 0,
  missing: 1,
};
const way = (kind: string, words: string, more: object = {}) => ({
  key: `${kind} 1`,
  kind,
  words,
  part: 'roller',
  quantity: 1,
  in_time: true,
  reasons: [],
  seconds: 660,
  metres: 0,
  money: 692,
  ...more,
});
const late = way('colleague', 'Meet Ivor', { in_time: false, reasons: ['after the visit'], key: 'late' });
const offered = [
  way('depot', 'Stop at the depot Kilnfield, 08:45'),
  late,
  way('supplier', 'Order from Steyn', { in_time: false }),
];

const BOTH: SchemaAction[] = ['use', 'plan', 'see_stock', 'move_stock'];

const show = async (taken: unknown, may = BOTH) => {
  serve({ [WAYS]: offered, [TAKE]: taken, 'GET /api/v1/company': { currency: 'EUR' } });
  return draw(<Ways need={need} code="roller" />, { may });
};

describe('ways to a missing part', () => {
  it('are said with what they cost; what is too late is folded away with why', async () => {
    const { user } = await show({});
    const list = await screen.findByRole('list', { name: 'Ways for W-1' });
    expect(within(list).getAllByRole('listitem')).toHaveLength(2);
    expect(within(list).getAllByText('11 min')).toHaveLength(2);
    expect(within(list).getByText(/not in time: Order from Steyn/)).toBeVisible();
    await user.click(screen.getByRole('button', { name: 'Show 1 that do not fit' }));
    expect(screen.getByText(/Meet Ivor: after the visit/)).toBeVisible();
  });

  it('are taken by the key that was offered, with the version that was seen', async () => {
    const { user } = await show({ words: 'Stop at the depot', visit_id: 7, errand_id: 8 });
    await user.click(await screen.findByRole('button', { name: 'Make the stop' }));
    await waitFor(() => expect(askedOf(TAKE)).toHaveLength(1));
    expect(askedOf(TAKE)[0]!.body).toMatchObject({ visit_id: 7, version: 3, part: 'roller', key: 'depot 1' });
  });

  it('are shown, and not offered, to who may not plan', async () => {
    await show({}, ['use', 'see_stock', 'move_stock']);
    await screen.findByRole('list', { name: 'Ways for W-1' });
    expect(screen.queryByRole('button', { name: 'Make the stop' })).toBeNull();
  });

  it('that are gone are said to be, and what there is now is asked for', async () => {
    const { user } = await show(() => {
      throw new Refusal(422, { code: 'way_gone', title: 'That way is not open any more.' });
    });
    await user.click(await screen.findByRole('button', { name: 'Make the stop' }));
    expect(await screen.findByText('That way is not open any more.')).toBeVisible();
    await waitFor(() => expect(askedOf(WAYS).length).toBeGreaterThan(1));
  });
});

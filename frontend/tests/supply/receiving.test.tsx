import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { PurchasePage } from '@/features/supply/purchases/PurchasePage';
import { at, draw } from '../drawn';
import { askedOf, Refusal, serve, type Asked } from '../server';

const ORDER = '/api/v1/supply/purchases/3';
const RECEIVE = `POST ${ORDER}/receive`;

function order(received: number, version: number) {
  const line = {
    ...{
      id: 11,
      code: 'lamp',
      part: 'Car lamp',
      their_number: 'OF-1',
      tracking: 'plain',
      quantity: 5,
      received,
    },
    ...{ price: 400, paid: null, difference: 0, for_visit: null },
  };
  return {
    ...{
      id: 3,
      version,
      number: 'B-3',
      supplier: 'Ombury',
      supplier_id: 1,
      target: 'Kilnfield',
      target_id: 1,
    },
    ...{ state: received < 5 ? 'received in part' : 'received', ordered_at: at(8), ordered_by: 'Dora Quill' },
    ...{
      expected_on: '2026-11-30',
      late: false,
      mailed: true,
      email: '',
      lines: [line],
      note: '',
      total: 2000,
    },
  };
}

/** A server that books what comes, once for each key, and refuses what was not seen. */
function show() {
  let now = order(0, 2);
  const keys = new Set<string>();
  serve({
    [`GET ${ORDER}`]: () => now,
    [RECEIVE]: ({ body }: Asked) => {
      const { version, key, came } = body as { version: number; key: string; came: { quantity: number }[] };
      if (keys.has(key)) return now;
      if (version !== now.version)
        throw new Refusal(409, { code: 'conflict', title: 'Milo Tarn received it meanwhile.' });
      keys.add(key);
      now = order(now.lines[0]!.received + came[0]!.quantity, now.version + 1);
      return now;
    },
    'GET /api/v1/company': { currency: 'EUR' },
  });
  const drawn = draw(<PurchasePage />, {
    ...{ may: ['use', 'see_stock', 'move_stock', 'order_parts'], path: '/stock/purchases/3' },
    route: '/stock/purchases/$orderId',
  });
  const other = (received: number, version: number) => {
    now = order(received, version);
  };
  return drawn.then((given) => ({ ...given, other }));
}
const many = () => screen.findByLabelText('How many Car lamp come now');
const press = () => screen.getByRole('button', { name: 'Put away at Kilnfield' });

describe('what comes of an order', () => {
  it('is put away in part, and the rest under a key of its own', async () => {
    const { user } = await show();
    await user.type(await many(), '2');
    await user.click(press());
    expect(await screen.findByText(/B-3 is received in part/)).toBeVisible();
    expect(await many()).toHaveValue('');
    await user.type(await many(), '3');
    await user.click(press());
    await waitFor(() => expect(askedOf(RECEIVE)).toHaveLength(2));
    const [first, second] = askedOf(RECEIVE).map((row) => row.body as { key: string; version: number });
    expect(second!.key).not.toBe(first!.key);
    expect([first!.version, second!.version]).toEqual([2, 3]);
    expect(await screen.findByText(/^received, /)).toBeVisible();
  });

  it('that somebody else has received meanwhile is refused once, and what was typed stays', async () => {
    const { user, other } = await show();
    await user.type(await many(), '2');
    other(2, 3);
    await user.click(press());
    expect(await screen.findByText(/Milo Tarn received it meanwhile/)).toBeVisible();
    expect(await many()).toHaveValue('2');
    await waitFor(() => expect(screen.getByRole('row', { name: /Car lamp.*5.*2/ })).toBeVisible());
    await user.click(press());
    await waitFor(() => expect(askedOf(RECEIVE)).toHaveLength(2));
    expect((askedOf(RECEIVE)[1]!.body as { version: number }).version).toBe(3);
  });
});

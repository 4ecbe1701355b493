import { screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { TonightPage } from '@/features/supply/tonight/TonightPage';
import { draw, TODAY } from '../drawn';
import { serve } from '../server';

const van = (id: number, more: object = {}) => ({
  ...{ technician_id: id, technician: `Technician ${id}`, van_id: id, van: `Van ${id}`, counted: true },
  ...{ depot_id: 1, depot: 'Kilnfield', starts: null, missing: 0, parts: [], picks: [], coming: [] },
  ...more,
});
const takes = (more: object = {}) => ({
  parts: [{ code: 'roller', part: 'Roller', quantity: 1, van: 1, depot: 0, missing: 0, visits: [] }],
  ...more,
});

const show = (vans: object[]) => {
  serve({
    'GET /api/v1/supply/tonight': vans,
    'GET /api/v1/supply/ways': [],
    'GET /api/v1/company': {},
    'GET /api/v1/supply/counts': { day: TODAY },
  });
  return draw(<TonightPage />, { may: ['use', 'see_stock', 'move_stock'], path: '/stock/tonight' });
};

describe('the parts of the next day', () => {
  it('promise nothing where nothing is planned', async () => {
    await show([]);
    expect(await screen.findByText('No visit of this day takes a part.')).toBeVisible();
    expect(screen.queryByText(/Nothing is missing/)).toBeNull();
    expect(screen.queryByRole('button', { name: /vans? that/ })).toBeNull();
  });

  it('are all there where vans are counted', async () => {
    await show([van(1, takes()), van(2)]);
    expect(await screen.findByText(/✓ Nothing is missing/)).not.toHaveTextContent('Nobody counts');
    expect(screen.getByRole('button', { name: /Show the 2 vans that have/ })).toBeVisible();
  });

  it('are not said to be safe on a van that nobody counts', async () => {
    await show([van(1, takes({ counted: false })), van(2, takes())]);
    const said = await screen.findByText(/Nothing is missing/);
    expect(said).toHaveTextContent(
      'Nobody counts one van that takes parts: what they need is taken to be there.',
    );
    expect(said).not.toHaveTextContent('✓');
  });

  it('are counted where they are missing', async () => {
    await show([van(1, takes({ missing: 1 })), van(2, takes({ missing: 2 })), van(3, { picks: [{}] })]);
    expect(await screen.findByText('3 parts are missing')).toBeVisible();
  });
});

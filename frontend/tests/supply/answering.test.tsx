import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { Answering } from '@/features/supply/requests/Answering';
import { at, draw } from '../drawn';
import { askedOf, serve } from '../server';

const HAND = 'POST /api/v1/part-requests/5/hand-over';
const row = {
  id: 5,
  version: 3,
  code: 'drive',
  part: 'Door drive',
  quantity: 2,
  tracking: 'plain' as 'plain' | 'batch' | 'serial number',
  technician_id: 1,
  technician: 'Ines Falk',
  visit_id: 7,
  order_id: 1,
  visit: 'W-1',
  needed_by: at(15),
  must: true,
  substitute_allowed: false,
  words: '',
  state: 'arrived',
  answer: '',
  source: '',
  expected_on: null,
  asked_at: at(8),
  asked_by: 'Ines Falk',
};

const show = (more: Partial<typeof row> = {}) => {
  serve({ [HAND]: null, 'GET /api/v1/part-requests/5/near': [] });
  return draw(<Answering row={{ ...row, ...more } as never} />, { may: ['use', 'see_stock', 'move_stock'] });
};

describe('a part that is asked for and has come', () => {
  it('is handed over with one press', async () => {
    const { user } = await show();
    await user.click(screen.getByRole('button', { name: 'Handed over' }));
    await waitFor(() => expect(askedOf(HAND)[0]?.body).toEqual({ version: 3, serials: [], batch: '' }));
  });

  it('is handed over by its numbers, as many as were asked for', async () => {
    const { user } = await show({ tracking: 'serial number' });
    const press = screen.getByRole('button', { name: 'Handed over' });
    expect(press).toBeDisabled();
    await user.type(screen.getByLabelText('Serial numbers'), 'D1');
    expect(press).toBeDisabled();
    await user.type(screen.getByLabelText('Serial numbers'), ' D2');
    await user.click(press);
    await waitFor(() =>
      expect(askedOf(HAND)[0]?.body).toEqual({ version: 3, serials: ['D1', 'D2'], batch: '' }),
    );
  });

  it('is handed over by its batch', async () => {
    const { user } = await show({ tracking: 'batch' });
    await user.type(screen.getByLabelText('Batch'), ' 2026-40 ');
    await user.click(screen.getByRole('button', { name: 'Handed over' }));
    await waitFor(() =>
      expect(askedOf(HAND)[0]?.body).toEqual({ version: 3, serials: [], batch: '2026-40' }),
    );
  });

  it('is not done about once it is over', async () => {
    await show({ state: 'handed over' });
    expect(screen.queryByRole('button')).toBeNull();
  });
});

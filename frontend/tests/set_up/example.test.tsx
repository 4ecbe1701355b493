import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { Example } from '@/features/set_up/first_steps/Example';
import { draw } from '../drawn';
import { askedOf, Refusal, serve } from '../server';

const NOW = 'GET /api/v1/set-up/example';
const FILL = 'POST /api/v1/set-up/example';
const AWAY = 'DELETE /api/v1/set-up/example';
const NONE = { exists: false, can_be_filled: true, counts: {} };
const THERE = { exists: true, can_be_filled: false, counts: { technicians: 4, orders: 9 } };
const show = (more: Record<string, unknown>) => {
  serve({
    'GET /api/v1/catalogue/starters': [
      { key: 'lifts', name: 'Lifts', jobs: [] },
      { key: 'doors', name: 'Doors and gates', jobs: [] },
    ],
    ...more,
  });
  return draw(<Example />, { may: ['use', 'manage_accounts'] });
};

describe('an example', () => {
  it('is filled in for a trade, and says why it cannot be', async () => {
    const { user } = await show({
      [NOW]: NONE,
      [FILL]: () => {
        throw new Refusal(422, { code: 'rejected', title: 'The region has no addresses.' });
      },
    });
    await screen.findByRole('option', { name: 'Doors and gates' });
    await user.selectOptions(screen.getByLabelText('Trade'), 'Doors and gates');
    await user.click(screen.getByRole('button', { name: 'Fill in an example' }));
    expect(await screen.findByText('The region has no addresses.')).toBeVisible();
    expect(askedOf(FILL)[0]!.body).toEqual({ trade: 'doors' });
  });

  it('is thrown away only after all that goes with it was said', async () => {
    const { user } = await show({ [NOW]: THERE, [AWAY]: NONE });
    await user.click(await screen.findByRole('button', { name: 'Throw the example away' }));
    expect(screen.getByText('All of it: 4 technicians, 9 orders?')).toBeVisible();
    await user.click(screen.getByRole('button', { name: 'Keep it' }));
    expect(askedOf(AWAY)).toHaveLength(0);
    await user.click(screen.getByRole('button', { name: 'Throw the example away' }));
    await user.click(screen.getByRole('button', { name: 'Throw all of it away' }));
    await waitFor(() => expect(askedOf(AWAY)).toHaveLength(1));
  });

  it('is not offered where somebody works already', async () => {
    await show({ [NOW]: { ...NONE, can_be_filled: false } });
    await waitFor(() => expect(askedOf(NOW)).toHaveLength(1));
    expect(screen.queryByRole('button')).toBeNull();
  });
});

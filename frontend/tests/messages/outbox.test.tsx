import { screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { OutboxPage } from '@/features/messages/OutboxPage';
import { at, draw } from '../drawn';
import { Refusal, serve } from '../server';

const message = (id: number, more = {}) => ({
  id,
  kind: 'customer',
  channel: 'text',
  name: 'Seagate Stores',
  address: '+351 296 555 100',
  text: 'We come between 11 and 12.',
  visit_id: 7,
  order: 'W-7',
  written_at: at(9),
  state: 'delivered',
  delivered_at: at(9),
  reference: 'sim-1',
  ...more,
});
const show = (given: unknown) => {
  serve({ 'GET /api/messages': given });
  return draw(<OutboxPage />);
};

describe('the outbox', () => {
  it('says to whom, by what, what, and whether it arrived', async () => {
    await show([message(1)]);
    const row = await screen.findByRole('row', { name: /Seagate Stores/ });
    expect(row).toHaveTextContent(
      /27 Nov, 09:00.*customer, \+351 296 555 100.*text.*between 11 and 12.*W-7.*delivered/,
    );
  });

  it('says why something did not arrive', async () => {
    await show([message(1, { state: 'failed', reference: 'no such number' })]);
    expect(await screen.findByText('no such number')).toBeVisible();
  });

  it('leads to the visit on the board', async () => {
    const { user, router } = await show([message(1)]);
    await user.click(await screen.findByRole('button', { name: 'W-7' }));
    expect(router.state.location.pathname).toBe('/board');
    expect(router.state.location.search).toMatchObject({ visit: 7 });
  });

  it('says so when nothing was sent, and when it cannot be read', async () => {
    await show([]);
    expect(await screen.findByText('Nothing has been sent yet.')).toBeVisible();
  });

  it('says what went wrong', async () => {
    await show(() => {
      throw new Refusal(403, { code: 'not_permitted', title: 'You may not read messages.' });
    });
    expect(await screen.findByText('You may not read messages.')).toBeVisible();
  });
});

import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { RemindersOfDays } from '@/features/orders';
import { at, draw, TODAY } from '../drawn';
import { askedOf, serve } from '../server';

const row = (id: number, more = {}) => ({
  ...{ id, version: 1, at: at(9), text: `Thing ${id}`, made_by: 'Dora', done: false, account_id: 1 },
  ...{ person: 'Dora Quill', about: '', about_id: null, ...more },
});

describe('what is to be thought of on the days of the board', () => {
  const show = (rows: unknown[], last = TODAY) => {
    serve({ 'GET /api/v1/office-reminders': rows, 'PUT /api/v1/office-reminders/1': row(1, { done: true }) });
    return draw(<RemindersOfDays first={TODAY} last={last} />);
  };

  it('leads to what it is about, and is done with', async () => {
    const { user } = await show([row(1, { about: 'quote', about_id: 7 })]);
    await user.click(await screen.findByText('1'));
    expect(await screen.findByRole('link', { name: 'Thing 1' })).toHaveAttribute('href', '/quotes/7');
    expect(askedOf('GET /api/v1/office-reminders')[0]?.query).toMatchObject({ first: TODAY, last: TODAY });
    await user.click(screen.getByRole('checkbox', { name: 'Done: Thing 1' }));
    await waitFor(() =>
      expect(askedOf('PUT /api/v1/office-reminders/1')[0]?.body).toMatchObject({ version: 1, done: true }),
    );
  });

  it('is counted, and unfolds; of several days it says which', async () => {
    const { user } = await show(
      [1, 2, 3, 4, 5].map((id) => row(id)),
      '2026-11-29',
    );
    await user.click(await screen.findByText('5'));
    expect(screen.getAllByText('Fri 27 Nov, Dora Quill')).toHaveLength(5);
  });

  it('is not there where there is nothing', async () => {
    await show([]);
    await waitFor(() => expect(askedOf('GET /api/v1/office-reminders')).toHaveLength(1));
    expect(screen.queryByText('to think of')).toBeNull();
  });
});

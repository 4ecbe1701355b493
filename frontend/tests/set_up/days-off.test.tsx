import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { DaysOffPage } from '@/features/set_up/days_off/DaysOffPage';
import { effectInWords } from '@/features/set_up/days_off/words';
import { draw } from '../drawn';
import { askedOf, Refusal, serve } from '../server';

const ROW = {
  id: 7,
  technician_id: 3,
  technician: 'Ines Falk',
  first_day: '2026-11-26',
  last_day: '2026-12-01',
  kind: 'holiday',
  words: 'Wedding',
  working_days: 4,
  visits: 2,
  promised: 1,
  others: ['Ivor Larkin'],
  holiday_days: 25,
  holiday_taken: 20,
};
const LIST = 'GET /api/v1/board/days-off';
const GRANT = 'POST /api/v1/board/days-off/7/grant';
const DECLINE = 'POST /api/v1/board/days-off/7/decline';
const said = (more: Partial<typeof ROW>) => effectInWords({ ...ROW, ...more }).map(({ words }) => words);

describe('days off that wait for an answer', () => {
  it('say what granting them means', () => {
    expect(said({})).toEqual([
      '4 working days of capacity go.',
      '2 visits stand there, 1 of them promised.',
      'Also away: Ivor Larkin.',
      '1 of 25 days of holiday are left after it.',
    ]);
    expect(said({ visits: 0, others: [], working_days: 7 }).at(-1)).toBe(
      '2 more than the 25 days of holiday of the year.',
    );
    expect(said({ kind: 'sickness', visits: 0, others: [], working_days: 1 })).toEqual([
      '1 working day of capacity go.',
    ]);
  });

  it('are granted with the words that were typed, and gone then', async () => {
    serve({ [LIST]: [ROW], [GRANT]: [] });
    const { user } = await draw(<DaysOffPage />, { may: ['use', 'plan'] });
    await user.type(await screen.findByLabelText('Answer, which the technician reads'), 'Enjoy it');
    await user.click(screen.getByRole('button', { name: 'Grant' }));
    expect(await screen.findByText('Nobody waits for an answer.')).toBeVisible();
    expect(askedOf(GRANT)[0]!.body).toEqual({ answer: 'Enjoy it' });
  });

  it('stay, with the reason, when an answer is refused', async () => {
    serve({
      [LIST]: [ROW],
      [DECLINE]: () => {
        throw new Refusal(422, {
          code: 'rejected',
          title: 'Say why: the technician reads it.',
          field: 'answer',
        });
      },
    });
    const { user } = await draw(<DaysOffPage />, { may: ['use', 'plan'] });
    await user.click(await screen.findByRole('button', { name: 'Decline' }));
    await waitFor(() => expect(screen.getByText('Say why: the technician reads it.')).toBeVisible());
    expect(screen.getByText(/Ines Falk/)).toBeVisible();
  });
});

import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { DaysOff } from '@/features/field/DaysOff';
import { draw } from '../drawn';
import { askedOf, serve } from '../server';

const LIST = 'GET /api/v1/field/days-off';
const ASK = 'POST /api/v1/field/days-off';
const asked = (id: number, state: string, more = {}) => ({
  id,
  first_day: '2026-12-21',
  last_day: '2026-12-23',
  kind: 'holiday',
  words: '',
  state,
  answered_by: '',
  answer: '',
  ...more,
});

describe('days off on the phone', () => {
  it('are asked for, one day where no last one is said', async () => {
    serve({
      [LIST]: { allowance: { year: 2026, days: 25, taken: 20 }, asked: [] },
      [ASK]: asked(1, 'asked'),
    });
    const { user } = await draw(<DaysOff />, { may: ['use', 'work_in_field'] });
    expect(await screen.findByText('20 of 25 days of holiday granted in 2026, 5 left.')).toBeVisible();
    await user.type(screen.getByLabelText('First day'), '21.12.2026');
    await user.selectOptions(screen.getByLabelText('What for'), 'training');
    await user.click(screen.getByRole('button', { name: 'Ask for it' }));
    await waitFor(() =>
      expect(askedOf(ASK)[0]?.body).toEqual({
        first_day: '2026-12-21',
        last_day: '2026-12-21',
        kind: 'training',
        words: '',
      }),
    );
  });

  it('are taken back while nobody has answered, and show the answer then', async () => {
    const answered = { answered_by: 'Dora Quill', answer: 'The tower is then' };
    serve({
      [LIST]: {
        allowance: { year: 2026, days: null, taken: 1 },
        asked: [asked(1, 'asked'), asked(2, 'declined', answered)],
      },
      'DELETE /api/v1/field/days-off/1': asked(1, 'withdrawn'),
    });
    const { user } = await draw(<DaysOff />, { may: ['use', 'work_in_field'] });
    expect(await screen.findByText(/Dora Quill: The tower is then/)).toBeVisible();
    expect(screen.getByText('1 day of holiday granted in 2026.')).toBeVisible();
    await user.click(screen.getByRole('button', { name: 'Take it back' }));
    await waitFor(() => expect(askedOf('DELETE /api/v1/field/days-off/1')).toHaveLength(1));
  });
});

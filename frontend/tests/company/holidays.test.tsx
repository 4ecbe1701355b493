import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { HolidaysPage } from '@/features/company/holidays/HolidaysPage';
import { draw } from '../drawn';
import { askedOf, Refusal, serve } from '../server';

const ADD = 'POST /api/v1/company/holidays';
const LIST = 'GET /api/v1/company/holidays';
const BOXING = { id: 2, day: '2026-12-26', name: 'Second day of Christmas' };
const show = (more: Record<string, unknown> = {}, canChange = true) => {
  serve({
    [LIST]: [BOXING],
    [ADD]: { ...BOXING, id: 3 },
    'DELETE /api/v1/company/holidays/2': null,
    ...more,
  });
  return draw(<HolidaysPage />, { may: canChange ? ['use', 'change_settings'] : ['use'] });
};

describe('holidays', () => {
  it('are listed with their day of the week', async () => {
    await show();
    expect(await screen.findByText('Second day of Christmas')).toBeVisible();
    expect(screen.getByText('Sat 26 Dec')).toBeVisible();
  });

  it('are added with a day and a name', async () => {
    const { user } = await show();
    await user.type(await screen.findByLabelText('Day'), '2026-12-25');
    expect(screen.getByRole('button', { name: 'Add' })).toBeDisabled();
    await user.type(screen.getByLabelText('Name'), 'Christmas');
    await user.click(screen.getByRole('button', { name: 'Add' }));
    await waitFor(() => expect(askedOf(ADD)[0]?.body).toEqual({ day: '2026-12-25', name: 'Christmas' }));
    await waitFor(() => expect(screen.getByLabelText('Name')).toHaveValue(''));
  });

  it('keep what was typed when they are refused', async () => {
    const { user } = await show({
      [ADD]: () => {
        throw new Refusal(422, { code: 'rejected', title: 'That day is a holiday already.', field: 'day' });
      },
    });
    await user.type(await screen.findByLabelText('Day'), '2026-12-26');
    await user.type(screen.getByLabelText('Name'), 'Again{Enter}');
    expect(await screen.findByText('That day is a holiday already.')).toBeVisible();
    expect(screen.getByLabelText('Name')).toHaveValue('Again');
  });

  it('are removed', async () => {
    const { user } = await show();
    await user.click(await screen.findByRole('button', { name: 'Remove Second day of Christmas' }));
    await waitFor(() => expect(askedOf('DELETE /api/v1/company/holidays/2')).toHaveLength(1));
  });

  it('are only read by whoever may not change the set-up', async () => {
    await show({}, false);
    expect(await screen.findByText('Second day of Christmas')).toBeVisible();
    expect(screen.queryByRole('form')).toBeNull();
    expect(screen.queryByRole('button', { name: /Remove/ })).toBeNull();
  });

  it('may be none', async () => {
    await show({ [LIST]: [] });
    expect(await screen.findByText('There are no holidays yet.')).toBeVisible();
  });
});

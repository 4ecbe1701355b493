import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { deviceOf } from '@/features/accounts/own/device';
import { OwnAccountPage } from '@/features/accounts/pages';
import { at, draw } from '../drawn';
import { askedOf, Refusal, serve } from '../server';

const AUTH = '/api/auth/browser/v1';
const TOTP = `${AUTH}/account/authenticators/totp`;
const CODES = `${AUTH}/account/authenticators/recovery-codes`;
const FIREFOX = 'Mozilla/5.0 (Windows NT 10.0; rv:140.0) Gecko/20100101 Firefox/140.0';
const session = (id: number, more = {}) => ({
  id,
  user_agent: FIREFOX,
  ip: '10.0.0.7',
  created_at: at(8),
  is_current: id === 1,
  ...more,
});
const ON = { type: 'totp', created_at: at(8), last_used_at: null };
const show = (more: Record<string, unknown> = {}) => {
  serve({
    [`GET ${AUTH}/auth/sessions`]: { data: [session(1), session(2), session(3, { user_agent: 'A phone' })] },
    [`GET ${AUTH}/account/authenticators`]: { data: [] },
    [`DELETE ${AUTH}/auth/sessions`]: { data: [] },
    [`POST ${AUTH}/auth/reauthenticate`]: { data: {} },
    ...more,
  });
  return draw(<OwnAccountPage />);
};

describe('your account', () => {
  it('changes the password, and says at its field what is wrong', async () => {
    const { user } = await show({
      [`POST ${AUTH}/account/password/change`]: () => {
        throw new Refusal(400, {
          errors: [{ message: 'This is not your present password.', code: 'x', param: 'current_password' }],
        } as never);
      },
    });
    const form = within(await screen.findByRole('form', { name: 'Password' }));
    await user.type(form.getByLabelText('Present password'), 'wrong');
    await user.type(form.getByLabelText('New password'), 'short{Enter}');
    expect(await form.findByText('At least ten characters')).toBeVisible();
    await user.type(form.getByLabelText('New password'), '-and-longer{Enter}');
    expect(await form.findByText('This is not your present password.')).toBeVisible();
    expect(form.getByLabelText('Present password')).toHaveFocus();
  });

  it('lists where one is signed in, and signs out there', async () => {
    const { user } = await show();
    const list = within(await screen.findByRole('list', { name: 'Sessions' }));
    expect(await list.findByText('this one')).toBeVisible();
    await user.click(list.getByRole('button', { name: 'Sign out on A phone' }));
    await waitFor(() => expect(askedOf(`DELETE ${AUTH}/auth/sessions`)[0]?.body).toEqual({ sessions: [3] }));
    await user.click(screen.getByRole('button', { name: 'Sign out everywhere else' }));
    await waitFor(() =>
      expect(askedOf(`DELETE ${AUTH}/auth/sessions`)[1]?.body).toEqual({ sessions: [2, 3] }),
    );
  });

  it('sets up a second factor: password, secret, code, and codes for when the phone is lost', async () => {
    let on = false;
    const { user } = await show({
      [`GET ${AUTH}/account/authenticators`]: () => ({ data: on ? [ON] : [] }),
      [`GET ${TOTP}`]: () => {
        throw new Refusal(404, { meta: { secret: 'ABCDEFGH', totp_url: 'otpauth://totp/x' } } as never);
      },
      [`POST ${TOTP}`]: () => {
        on = true;
        return { data: ON };
      },
      [`POST ${CODES}`]: { data: { unused_codes: ['11111111', '22222222'] } },
    });
    await user.click(await screen.findByRole('button', { name: 'Set up a second factor' }));
    await user.type(screen.getByLabelText('Your password, once more'), 'secret{Enter}');
    expect(await screen.findByText('ABCD EFGH')).toBeVisible();
    await user.type(screen.getByLabelText('Code that the app shows now'), '123456{Enter}');
    expect(
      within(await screen.findByRole('list', { name: 'Recovery codes' })).getAllByRole('listitem'),
    ).toHaveLength(2);
    await user.click(screen.getByRole('button', { name: 'I have written them down' }));
    expect(await screen.findByRole('button', { name: 'Remove the second factor' })).toBeVisible();
  });
});

describe('a device', () => {
  it.each([
    [FIREFOX, 'Firefox on Windows'],
    ['Mozilla/5.0 (iPhone; CPU iPhone OS 19_0 like Mac OS X) Version/19.0 Safari/604.1', 'Safari on iPhone'],
    ['Mozilla/5.0 (Linux; Android 15) Chrome/140.0 Mobile Safari/537.36', 'Chrome on Android'],
    ['curl/8.5', 'curl/8.5'],
    ['', 'unknown device'],
  ])('%s is %s', (agent, words) => expect(deviceOf(agent)).toBe(words));
});

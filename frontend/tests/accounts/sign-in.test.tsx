import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { ChoosePassword, ForgottenPassword, SignIn, Welcome } from '@/features/accounts/pages';
import { draw } from '../drawn';
import { askedOf, Refusal, serve } from '../server';

const AUTH = '/api/auth/browser/v1';
const IN = `POST ${AUTH}/auth/login`;
const CODE = `POST ${AUTH}/auth/2fa/authenticate`;
const RESET = `${AUTH}/auth/password/reset`;
const PEOPLE = {
  password: 'varnholm-harbour',
  accounts: [
    { name: 'Dora Quill', email: 'dora@example.org', role: 'dispatcher' },
    { name: 'Ines Falk', email: 'ines@example.org', role: 'technician' },
  ],
};
/** As the account package refuses: a list of errors, each with the field it is about. */
const refuse =
  (status: number, ...errors: { message: string; code: string; param?: string }[]) =>
  () => {
    throw new Refusal(status, { errors } as never);
  };
const pending = (id: string) => () => {
  throw new Refusal(401, { data: { flows: [{ id: 'login' }, { id, is_pending: true }] } } as never);
};
const WRONG = refuse(400, { message: 'They do not belong together.', code: 'mismatch', param: 'password' });

describe('signing in', () => {
  it('says in words when it fails, and keeps the e-mail', async () => {
    serve({ [IN]: WRONG });
    const { user } = await draw(<SignIn />);
    await user.type(await screen.findByLabelText('E-mail'), 'dora@example.org');
    await user.type(screen.getByLabelText('Password'), 'wrong');
    await user.click(screen.getByRole('button', { name: 'Sign in' }));
    expect(await screen.findByText('They do not belong together.')).toBeVisible();
    expect(screen.getByLabelText('E-mail')).toHaveValue('dora@example.org');
    expect(askedOf(IN)[0]!.body).toEqual({ email: 'dora@example.org', password: 'wrong' });
  });

  it('to the demo is choosing who one is, each with what they do', async () => {
    serve({ [IN]: WRONG, 'GET /api/v1/session/demo': PEOPLE });
    const { user } = await draw(<SignIn />, { demo: true });
    expect(await screen.findByText(/technician, works from a phone/)).toBeVisible();
    await user.click(screen.getByRole('button', { name: /Dora Quill/ }));
    await waitFor(() =>
      expect(askedOf(IN)[0]?.body).toEqual({ email: 'dora@example.org', password: 'varnholm-harbour' }),
    );
  });

  it('to a real company shows nobody', async () => {
    serve({});
    await draw(<SignIn />);
    expect(await screen.findByLabelText('E-mail')).toBeVisible();
    expect(screen.queryByText('The people of the demo')).toBeNull();
  });

  it('asks for a code where there is a second factor', async () => {
    serve({
      [IN]: pending('mfa_authenticate'),
      [CODE]: refuse(400, { message: 'This code is not right.', code: 'incorrect_code', param: 'code' }),
    });
    const { user } = await draw(<SignIn />);
    await user.type(await screen.findByLabelText('E-mail'), 'dora@example.org');
    await user.type(screen.getByLabelText('Password'), 'right{Enter}');
    await user.type(await screen.findByLabelText('Code'), '123 456{Enter}');
    expect(await screen.findByText('This code is not right.')).toBeVisible();
    expect(askedOf(CODE)[0]!.body).toEqual({ code: '123456' });
  });

  it('by the directory is a form that leads there, and says why it brought nobody in', async () => {
    serve({});
    await draw(<SignIn />, {
      path: '/sign-in?from=directory&error=signup_closed',
      route: '/sign-in',
      directory: 'our directory',
    });
    const form = (await screen.findByRole('button', { name: 'Use our directory instead' })).closest('form')!;
    expect(form).toHaveAttribute('action', '/api/auth/browser/v1/auth/provider/redirect');
    expect(new FormData(form).get('callback_url')).toBe('/sign-in?from=directory');
    expect(screen.getByText(/an administrator of your company invites you/)).toBeVisible();
  });

  it('by the directory goes on with the second step', async () => {
    serve({ [`GET ${AUTH}/auth/session`]: pending('mfa_authenticate') });
    await draw(<SignIn />, { path: '/sign-in?from=directory', route: '/sign-in', directory: 'ours' });
    expect(await screen.findByRole('form', { name: 'Second step' })).toBeVisible();
  });
});

describe('a link to choose a password', () => {
  const show = (page = <Welcome />, more = {}) => {
    serve({
      [`GET ${RESET}`]: { data: { user: { display: 'Rui Vale', email: 'rui@example.org' } } },
      ...more,
    });
    return draw(page, { path: '/welcome/1-abc', route: '/welcome/$key' });
  };

  it('says whose account it is, and why a password is refused', async () => {
    const { user } = await show(<Welcome />, {
      [`POST ${RESET}`]: refuse(400, {
        message: 'This password is too common.',
        code: 'x',
        param: 'password',
      }),
    });
    expect(await screen.findByText('rui@example.org')).toBeVisible();
    await user.type(screen.getByLabelText('Password'), 'password1234{Enter}');
    expect(await screen.findByText('This password is too common.')).toBeVisible();
    expect(screen.getByLabelText('Password')).toHaveValue('password1234');
    expect(askedOf(`POST ${RESET}`)[0]!.body).toEqual({ key: '1-abc', password: 'password1234' });
  });

  it('that is dead says so, and what to do', async () => {
    const dead = refuse(400, {
      message: 'This link was used already, or is too old.',
      code: 'x',
      param: 'key',
    });
    await show(<ChoosePassword />, { [`GET ${RESET}`]: dead });
    expect(await screen.findByText(/used already/)).toBeVisible();
    expect(screen.getByRole('link', { name: 'Ask for another link' })).toHaveAttribute(
      'href',
      '/new-password',
    );
  });

  it('is asked for without telling who has an account', async () => {
    serve({ [`POST ${AUTH}/auth/password/request`]: {} });
    const { user } = await draw(<ForgottenPassword />);
    await user.type(await screen.findByLabelText('E-mail'), 'rui@example.org{Enter}');
    expect(await screen.findByText(/If rui@example.org has an account here/)).toBeVisible();
  });
});

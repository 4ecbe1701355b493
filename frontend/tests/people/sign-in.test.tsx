import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { SignIn } from '@/features/people';
import { draw } from '../drawn';
import { askedOf, Refusal, serve } from '../server';

const IN = 'POST /api/v1/session';
const PEOPLE = {
  password: 'varnholm-harbour',
  accounts: [
    { name: 'Dora Quill', email: 'dora@example.org', role: 'dispatcher' },
    { name: 'Ines Falk', email: 'ines@example.org', role: 'technician' },
  ],
};
const refuse = () => {
  throw new Refusal(422, { code: 'wrong_password', title: 'E-mail or password is not right.' });
};

describe('signing in', () => {
  it('says in words when it fails, and keeps the e-mail', async () => {
    serve({ [IN]: refuse });
    const { user } = await draw(<SignIn demo={false} />);
    await user.type(await screen.findByLabelText('E-mail'), 'dora@example.org');
    await user.type(screen.getByLabelText('Password'), 'wrong');
    await user.click(screen.getByRole('button', { name: 'Sign in' }));
    expect(await screen.findByText('E-mail or password is not right.')).toBeVisible();
    expect(screen.getByLabelText('E-mail')).toHaveValue('dora@example.org');
    expect(askedOf(IN)[0]!.body).toEqual({ email: 'dora@example.org', password: 'wrong' });
  });

  it('to the demo is choosing who one is, each with what they do', async () => {
    serve({ [IN]: refuse, 'GET /api/v1/session/demo': PEOPLE });
    const { user } = await draw(<SignIn demo />);
    expect(await screen.findByText(/technician, works from a phone/)).toBeVisible();
    await user.click(screen.getByRole('button', { name: /Dora Quill/ }));
    await waitFor(() =>
      expect(askedOf(IN)[0]?.body).toEqual({ email: 'dora@example.org', password: 'varnholm-harbour' }),
    );
  });

  it('to a real company shows nobody', async () => {
    serve({});
    await draw(<SignIn demo={false} />);
    expect(await screen.findByLabelText('E-mail')).toBeVisible();
    expect(screen.queryByText('The people of the demo')).toBeNull();
  });
});

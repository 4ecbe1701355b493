import { screen, waitFor } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { Helping } from '@/app/Helping';
import { Help } from '@/features/accounts/list/Help';
import { draw } from '../drawn';
import { askedOf, Refusal, serve } from '../server';

const ROW = { id: 4, name: 'Rui Vale', version: 1 } as never;
const HELP = 'POST /api/v1/accounts/4/help';
const BACK = 'POST /api/v1/session/back';
const went = vi.fn();

describe('helping somebody', () => {
  afterEach(() => vi.unstubAllGlobals());

  it('asks what for, and stays with the words when it is refused', async () => {
    serve({
      [HELP]: () => {
        throw new Refusal(422, {
          code: 'rejected',
          title: 'Administrators help themselves.',
          field: 'because',
        });
      },
    });
    const { user } = await draw(<Help row={ROW} />, { may: ['use', 'manage_accounts'] });
    expect(screen.getByRole('button', { name: 'Sign in as Rui Vale' })).toBeDisabled();
    await user.type(screen.getByLabelText('What for'), 'Empty board');
    await user.click(screen.getByRole('button', { name: 'Sign in as Rui Vale' }));
    expect(await screen.findByText('Administrators help themselves.')).toBeVisible();
    expect(askedOf(HELP)[0]!.body).toEqual({ because: 'Empty board' });
  });

  it('is said on every page, with the way back', async () => {
    vi.stubGlobal('location', { ...window.location, assign: went });
    serve({ [BACK]: {} });
    const { user } = await draw(<Helping name="Rui Vale" helper="Ada Reyne" />, { may: ['use'] });
    expect(screen.getByText(/You are signed in as Rui Vale, to help/)).toBeVisible();
    await user.click(screen.getByRole('button', { name: 'Back to Ada Reyne' }));
    await waitFor(() => expect(askedOf(BACK)).toHaveLength(1));
    await waitFor(() => expect(went).toHaveBeenCalledWith('/'));
  });
});

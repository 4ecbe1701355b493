import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { UnreadMail } from '@/features/intake/requests/UnreadMail';
import { at, draw } from '../../drawn';
import { askedOf, serve } from '../../server';

const row = { id: 4, sender: '', subject: 'plan', size: 40_000, why: 'It is no e-mail.', at: at(9) };
const show = (
  rows: unknown,
  again: unknown = { request: 'R-7' },
  may = ['use', 'take_requests'] as const,
) => {
  serve({
    'GET /api/v1/intake/mail': rows,
    'POST /api/v1/intake/mail/4/again': again,
    'POST /api/v1/intake/mail/4/settle': null,
  });
  return draw(<UnreadMail />, { may: [...may] });
};

describe('e-mail that could not be read', () => {
  it('is not there while all was read', async () => {
    await show([]);
    await waitFor(() => expect(askedOf('GET /api/v1/intake/mail')).not.toHaveLength(0));
    expect(screen.queryByRole('region', { name: /could not be read/ })).toBeNull();
  });

  it('says from whom, why, and is to be had as it came', async () => {
    await show([row]);
    expect(await screen.findByRole('listitem')).toHaveTextContent(
      /unknown sender plan.*40 KB · It is no e-mail/,
    );
    expect(screen.getByRole('link', { name: 'Download' })).toHaveAttribute('href', '/api/v1/intake/mail/4');
  });

  it('is tried again, and says what came of it', async () => {
    const { user } = await show([row]);
    await user.click(await screen.findByRole('button', { name: 'Try again' }));
    expect(await screen.findByText('It is R-7 now')).toBeVisible();
  });

  it('says that it still cannot be read', async () => {
    const { user } = await show([row], { request: null });
    await user.click(await screen.findByRole('button', { name: 'Try again' }));
    expect(await screen.findByText('It still cannot be read.')).toBeVisible();
  });

  it('is dealt with', async () => {
    const { user } = await show([row]);
    await user.click(await screen.findByRole('button', { name: 'Dealt with' }));
    await waitFor(() => expect(askedOf('POST /api/v1/intake/mail/4/settle')).toHaveLength(1));
  });
});

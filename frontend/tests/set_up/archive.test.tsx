import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { ArchivePage } from '@/features/set_up/archive/ArchivePage';
import { sizeInWords, stateInWords } from '@/features/set_up/archive/words';
import { draw } from '../drawn';
import { askedOf, Refusal, serve } from '../server';

const LIST = 'GET /api/v1/set-up/archives';
const MAKE = 'POST /api/v1/set-up/archives';
const row = (id: number, more = {}) => ({
  id,
  way: 'out',
  state: 'done',
  asked_at: 1795438800,
  asked_by: 'Ada Reyne',
  failure: '',
  size: 3_500_000,
  rows: 12345,
  can_be_taken: true,
  ...more,
});

describe('archives', () => {
  it('are taken where they are kept, and say why they failed', async () => {
    const failed = row(1, { state: 'failed', failure: 'It was begun and never ended.', can_be_taken: false });
    serve({ [LIST]: { is_empty: false, archives: [row(2), failed] } });
    await draw(<ArchivePage />, { may: ['use', 'manage_accounts'] });
    expect(await screen.findByRole('link', { name: 'Take it, 3 MB' })).toHaveAttribute(
      'href',
      expect.stringContaining('/set-up/archives/2'),
    );
    expect(screen.getByText('made, 12,345 rows')).toBeVisible();
    expect(screen.getByText('It was begun and never ended.')).toBeVisible();
    expect(screen.queryByText('Choose an archive')).toBeNull();
  });

  it('are asked for once, and refused in words', async () => {
    serve({
      [LIST]: { is_empty: true, archives: [] },
      [MAKE]: () => {
        throw new Refusal(409, { code: 'being_made', title: 'An archive is being made already.' });
      },
    });
    const { user } = await draw(<ArchivePage />, { may: ['use', 'manage_accounts'] });
    expect(await screen.findByText('Choose an archive')).toBeVisible();
    await user.click(screen.getByRole('button', { name: 'Make an archive' }));
    expect(await screen.findByText('An archive is being made already.')).toBeVisible();
    await waitFor(() => expect(askedOf(MAKE)).toHaveLength(1));
  });

  it('say how far they are, and how large', () => {
    expect(stateInWords(row(1, { state: 'running' }) as never)).toBe('is being made…');
    expect(stateInWords(row(1, { state: 'running', way: 'in' }) as never)).toBe('is being brought in…');
    expect([12, 5 * 1024, 3 * 1024 ** 2, 2.5 * 1024 ** 3].map(sizeInWords)).toEqual([
      '1 KB',
      '5 KB',
      '3 MB',
      '2.5 GB',
    ]);
  });
});

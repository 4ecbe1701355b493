import { screen, waitFor, within } from '@testing-library/react';
import { beforeEach, describe, expect, it } from 'vitest';
import { Announcements, AttentionSign, useMatters } from '@/features/attention';
import { draw } from './drawn';
import { askedOf, serve } from './server';

const WHO = 'dora@example.org';
const matter = (kind: string, id: number, sentence: string) => ({
  kind,
  key: `${kind} ${id}`,
  visit_id: id,
  label: `W-${id} Gull House`,
  sentence,
});

function All({ may = () => true }: { may?: () => boolean }) {
  const matters = useMatters(may);
  return (
    <>
      <AttentionSign matters={matters} />
      <Announcements who={WHO} matters={matters} />
    </>
  );
}

const show = (board: unknown[], more = {}) => {
  serve({
    'GET /api/v1/board/attention': board,
    'GET /api/v1/messages': { rows: [], next: null, failed: 0 },
    'GET /api/v1/messages/calls': [],
    'GET /api/v1/intake/mail': [],
    'GET /api/v1/people/running-out': [],
    'GET /api/v1/office-reminders': [],
    'GET /api/v1/supply/pressing': [],
    'GET /api/v1/field/waiting': [],
    'GET /api/v1/health/parts': { worker: true, planner: true },
    ...more,
  });
  return draw(<All />);
};

beforeEach(() => localStorage.clear());

describe('what somebody should look at', () => {
  it('is not spoken of when there is nothing', async () => {
    await show([]);
    await waitFor(() => expect(askedOf('GET /api/v1/health/parts')).not.toHaveLength(0));
    expect(screen.queryByRole('button')).toBeNull();
    expect(screen.queryByRole('status')).toBeNull();
  });

  it('is counted, and each thing leads to where it is dealt with', async () => {
    const failed = { id: 3, name: 'Gull House', failure: 'no such number', written_at: 1, visit_id: 9 };
    const { user, router } = await show(
      [matter('nobody', 1, 'promised Fri 10–12, and nobody is assigned'), matter('broken', 2, 'late')],
      { 'GET /api/v1/messages': { rows: [failed], next: null, failed: 1 } },
    );
    await user.click(await screen.findByRole('button', { name: '3 to look at' }));
    const list = screen.getByRole('dialog', { name: 'To look at' });
    expect(list).toHaveTextContent(
      /1 promise with nobody.*1 promise will not be kept today.*1 message not delivered/,
    );
    await user.click(within(list).getByRole('link', { name: /W-2 Gull House late/ }));
    await waitFor(() => expect(router.state.location.pathname).toBe('/board'));
    await waitFor(() => expect(router.state.location.search).toEqual({ visit: 2 }));
  });

  it('is only counted when it stood there at the first sign-in', async () => {
    await show([matter('nobody', 1, 'nobody')]);
    expect(await screen.findByRole('button', { name: '1 to look at' })).toBeVisible();
    expect(screen.queryByRole('status')).toBeNull();
    expect(localStorage.getItem(`iron-relay.seen.${WHO}`)).toBe('["nobody 1"]');
  });

  it('is announced by a line when it comes, which stays until it was seen', async () => {
    localStorage.setItem(`iron-relay.seen.${WHO}`, '[]');
    const rows = [
      matter('declined', 1, 'declined by Ines Falk: van is broken'),
      matter('nobody', 2, 'nobody'),
    ];
    const first = await show(rows);
    const line = await screen.findByRole('status', { name: 'New to look at' });
    expect(line).toHaveTextContent(/declined by Ines Falk: van is broken.*and 1 more/);
    await first.user.click(within(line).getByRole('button', { name: 'Seen' }));
    expect(screen.queryByRole('status', { name: 'New to look at' })).toBeNull();
    expect(screen.getByRole('button', { name: '2 to look at' })).toBeVisible();
    expect(localStorage.getItem(`iron-relay.seen.${WHO}`)).toBe('["declined 1","nobody 2"]');
  });

  it('says which process is away, and that the rest works', async () => {
    await show([], { 'GET /api/v1/health/parts': { worker: true, planner: false } });
    expect(await screen.findByText(/^The planner is away: no windows.*Everything else works/)).toBeVisible();
  });

  it('is also what runs out, and leads to whose it is', async () => {
    const { user, router } = await show([], {
      'GET /api/v1/people/running-out': [
        {
          key: 'certificate 3 2026-12-01',
          label: 'Ines Falk',
          sentence: 'Lift keys runs out on Tue 1 Dec',
          technician_id: 9,
          vehicle: null,
        },
      ],
    });
    await user.click(await screen.findByRole('button', { name: '1 to look at' }));
    expect(screen.getByText('1 certificate or inspection runs out')).toBeVisible();
    await user.click(screen.getByRole('link', { name: /Lift keys runs out/ }));
    await waitFor(() => expect(router.state.location.pathname).toBe('/set-up/people'));
    expect(router.state.location.search).toEqual({ person: 9 });
  });

  it('is also what one wanted to think of, and leads to what it is about', async () => {
    const row = {
      id: 5,
      version: 1,
      at: 1_795_741_200,
      text: 'Ask Marta',
      person: 'Dora Quill',
      account_id: 1,
    };
    const { user, router } = await show([], {
      'GET /api/v1/office-reminders': [{ ...row, about: 'quote', about_id: 77, done: false, made_by: 'x' }],
    });
    await user.click(await screen.findByRole('button', { name: '1 to look at' }));
    await user.click(screen.getByRole('link', { name: /Ask Marta/ }));
    await waitFor(() => expect(router.state.location.pathname).toBe('/quotes/77'));
  });

  it('is also an order to a supplier that is late, and leads to it', async () => {
    const late = {
      key: 'late 4 2026-11-27',
      label: 'B-4 Steyn',
      sentence: 'has not all come',
      order_id: 4,
      place_id: null,
    };
    const { user, router } = await show([], { 'GET /api/v1/supply/pressing': [late] });
    await user.click(await screen.findByRole('button', { name: '1 to look at' }));
    expect(screen.getByText('1 thing about stock')).toBeVisible();
    await user.click(screen.getByRole('link', { name: /has not all come/ }));
    await waitFor(() => expect(router.state.location.pathname).toBe('/stock/purchases/4'));
  });

  it('is also what was done in the field and contradicts the records, and leads to where it is decided', async () => {
    const told = {
      id: 'd1',
      label: 'W-7 Millrace',
      technician: 'Ines Falk',
      sentence: 'It was moved.',
      visit_id: 7,
    };
    const { user, router } = await show([], { 'GET /api/v1/field/waiting': [told] });
    await user.click(await screen.findByRole('button', { name: '1 to look at' }));
    expect(screen.getByText('1 thing told from the field to decide')).toBeVisible();
    await user.click(screen.getByRole('link', { name: /Ines Falk did something there.*It was moved/ }));
    await waitFor(() => expect(router.state.location.pathname).toBe('/told'));
  });
});

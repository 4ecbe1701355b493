import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { PersonPanel } from '@/features/board/person/PersonPanel';
import { at, draw, TODAY } from '../../drawn';
import { askedOf, Refusal, serve } from '../../server';
import { board, INES, visit } from '../worlds';

const drive = (leads_to: string, more = {}) => ({
  visit_id: 1,
  leads_to,
  address: 'Millrace Road 60',
  leaves: at(8),
  seconds: 720,
  metres: 6400,
  estimated: false,
  ways: [
    { street: 'Kilnfield Embankment', metres: 900, turn: 'head north' },
    { street: '', metres: 120, turn: 'sharp left' },
  ],
  ...more,
});

const show = async (visits = [visit(1), visit(2)], more: Record<string, unknown> = {}, canPlan = true) => {
  serve({
    'GET /api/v1/technicians/1/van': [],
    'GET /api/v1/parts': [],
    'GET /api/v1/board/directions': [drive('Seagate Hall'), drive('depot Northlock', { visit_id: null })],
    'GET /api/v1/technicians/1/calendar-link': { path: '/api/v1/board/calendar/secret' },
    'POST /api/v1/board/lock-days': { changed: 2 },
    ...more,
  });
  const on = { onLeft: vi.fn(), onVisit: vi.fn(), onClose: vi.fn() };
  const part = (
    <PersonPanel lane={INES} board={board()} day={TODAY} visits={visits} canPlan={canPlan} {...on} />
  );
  return { ...(await draw(part)), ...on };
};

describe('a technician beside the board', () => {
  it('has the papers of the day', async () => {
    await show();
    expect(await screen.findByRole('link', { name: 'Route sheet (PDF)' })).toHaveAttribute(
      'href',
      `/api/v1/board/route-sheet?day=${TODAY}&technician_id=1`,
    );
    expect(screen.getByRole('link', { name: 'Work orders (PDF)' })).toBeVisible();
  });

  it('gives away the secret link to the calendar', async () => {
    const { user } = await show();
    await user.click(await screen.findByRole('button', { name: 'Copy calendar link' }));
    expect(await screen.findByText(/Whoever has it reads the calendar/)).toBeInTheDocument();
    expect(await navigator.clipboard.readText()).toBe('http://localhost:3000/api/v1/board/calendar/secret');
  });

  it('takes the link from who should not have it, and closes it', async () => {
    const { user } = await show(undefined, {
      'POST /api/v1/technicians/1/calendar-link': { path: '/api/v1/board/calendar/new' },
      'DELETE /api/v1/technicians/1/calendar-link': { path: null },
    });
    await user.click(await screen.findByRole('button', { name: 'renew or close it' }));
    await user.click(screen.getByRole('button', { name: 'New link, the old one ends' }));
    expect(await screen.findByText(/The old one shows nothing any more/)).toBeInTheDocument();
    expect(await navigator.clipboard.readText()).toBe('http://localhost:3000/api/v1/board/calendar/new');
    await user.click(screen.getByRole('button', { name: 'Close the calendar' }));
    expect(await screen.findByText(/by a link any more/)).toBeInTheDocument();
  });

  it('says when the link cannot be had', async () => {
    const { user } = await show(undefined, {
      'GET /api/v1/technicians/1/calendar-link': () => {
        throw new Refusal(403, { code: 'not_permitted', title: 'You may not plan.' });
      },
    });
    await user.click(await screen.findByRole('button', { name: 'Copy calendar link' }));
    expect(await screen.findByText('You may not plan.')).toBeInTheDocument();
  });

  it('locks the whole day, and unlocks it when all of it is locked', async () => {
    const { user } = await show();
    await user.click(await screen.findByRole('button', { name: 'Lock all 2' }));
    await waitFor(() =>
      expect(askedOf('POST /api/v1/board/lock-days')[0]?.body).toMatchObject({
        technician_id: 1,
        pinned: true,
      }),
    );
  });

  it('that is locked can be unlocked', async () => {
    await show([visit(1, { pinned: true })]);
    expect(await screen.findByRole('button', { name: 'Unlock all' })).toBeVisible();
  });

  it('counts what of the day was not sent', async () => {
    await show([visit(1), visit(2, { state: 'sent' })]);
    expect(await screen.findByRole('button', { name: 'Send 1' })).toBeVisible();
  });

  it('tells the way street by street, once it is asked for', async () => {
    const { user, onVisit } = await show();
    await screen.findByText('Directions');
    expect(askedOf('GET /api/v1/board/directions')).toHaveLength(0);
    await user.click(screen.getByText('Directions'));
    const drives = await screen.findByRole('list', { name: 'Drives of the day' });
    expect(drives).toHaveTextContent(/08:00 to Seagate Hall, 12 min, 6\.4 km/);
    expect(drives).toHaveTextContent('Kilnfield Embankment');
    await user.click(within(drives).getByRole('button', { name: 'Seagate Hall' }));
    expect(onVisit).toHaveBeenCalledWith(1);
    expect(within(drives).queryByRole('button', { name: 'depot Northlock' })).toBeNull();
  });

  it('says when a drive is a guess', async () => {
    const { user } = await show(undefined, {
      'GET /api/v1/board/directions': [drive('Rock in the sea', { estimated: true, ways: [] })],
    });
    await user.click(await screen.findByText('Directions'));
    expect(await screen.findByText(/the drive is a guess/)).toBeVisible();
  });

  it('is only read by whoever may not plan', async () => {
    await show([visit(1)], {}, false);
    expect(await screen.findByRole('link', { name: 'Route sheet (PDF)' })).toBeVisible();
    expect(screen.queryByRole('button', { name: /Lock all|Send|calendar link|absent/ })).toBeNull();
  });
});

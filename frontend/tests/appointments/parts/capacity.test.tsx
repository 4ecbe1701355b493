import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { CapacityPage } from '@/features/appointments/capacity/CapacityPage';
import { addDays } from '@/shared/time';
import { at, draw, HOUR, TODAY } from '../../drawn';
import { asked, Refusal, serve } from '../../server';

const cell = (day: string, left: number, more = {}) => ({
  day,
  shifts: 24 * HOUR,
  free: 10 * HOUR,
  promised: 0,
  expected: 0,
  left: left * HOUR,
  ...more,
});
const days = [
  cell(TODAY, 12.5, { promised: 2 * HOUR, expected: 1.5 * HOUR }),
  cell(addDays(TODAY, 1), 1.5),
  cell(addDays(TODAY, 2), -3),
  cell(addDays(TODAY, 3), 0, { shifts: 0 }),
];
const OUTLOOK = {
  total: { area_id: null, area: '', days, waiting_visits: 5, waiting_seconds: 9 * HOUR },
  areas: [
    { area_id: 3, area: 'Millrace', days, waiting_visits: 2, waiting_seconds: 3 * HOUR },
    { area_id: 4, area: 'Hale', days, waiting_visits: 0, waiting_seconds: 0 },
  ],
};
const BEHIND = {
  workers: [
    {
      technician_id: 3,
      name: 'Ines Falk',
      working: 8 * HOUR,
      taken: 2 * HOUR,
      working_here: 4 * HOUR,
      taken_here: HOUR,
      areas: 2,
    },
  ],
  promised: [
    {
      visit_id: 9,
      number: 'W-9',
      title: 'Noisy door',
      site: 'Seagate Hall',
      promise: { start: at(14), end: at(16) },
      seconds: 2 * HOUR,
    },
  ],
  expected: [],
  weeks: 12,
};
const show = async (outlook: unknown = OUTLOOK) => {
  serve({
    'GET /api/v1/appointments/capacity': outlook,
    [`GET /api/v1/appointments/capacity/${TODAY}`]: BEHIND,
    'GET /api/v1/people/skills': [{ code: 'rescue', name: 'Rescue', retired: false }],
  });
  return draw(<CapacityPage />);
};

describe('the capacity outlook', () => {
  it('says what is left to sell, and what is promised and expected', async () => {
    await show();
    const row = await screen.findByRole('row', { name: /^Millrace/ });
    const [today] = within(row).getAllByRole('cell');
    expect(today).toHaveTextContent('12.5 hours left −2.0 ~1.5');
  });

  it('warns by sign, not by colour alone, and tells when nobody works', async () => {
    await show();
    const row = await screen.findByRole('row', { name: /^Millrace/ });
    const [, tight, short, nobody] = within(row).getAllByRole('cell');
    expect(tight).toHaveTextContent('▲ 1.5');
    expect(short).toHaveTextContent('■ -3.0');
    expect(nobody).toHaveTextContent('nobody');
  });

  it('begins with the whole company, and ends with what waits without a promise', async () => {
    await show();
    const rows = (await screen.findAllByRole('row')).slice(1);
    expect(rows.map((row) => within(row).getByRole('rowheader').textContent)).toEqual([
      'Whole company',
      'Millrace',
      'Hale',
    ]);
    expect(rows[0]).toHaveTextContent(/9.0 h in 5 visits$/);
    const link = within(rows[1]!).getByRole('link', { name: '3.0 h in 2 visits' });
    expect(decodeURIComponent(link.getAttribute('href')!)).toMatch(
      /waiting={"unpromised":true,"area_ids":\[3\]}/,
    );
    expect(rows[2]).toHaveTextContent(/none$/);
  });

  it('opens the work behind a figure', async () => {
    const { user } = await show();
    await user.click(await screen.findByRole('button', { name: /^Millrace, Fri 27 Nov: 12.5 hours left/ }));
    const sheet = within(await screen.findByRole('dialog', { name: 'Millrace, Fri 27 Nov' }));
    expect(sheet.getByText(/10.0 free − 2.0 promised − 1.5 expected =/)).toBeVisible();
    const free = await sheet.findByRole('region', { name: 'Free: 10.0 of 24.0 h' });
    expect(free).toHaveTextContent('Ines Falk 8.0 h of work, 2.0 taken, shared over 2 areas3.0');
    expect(within(free).getByRole('link')).toHaveAttribute('href', expect.stringContaining('person=3'));
    const promised = sheet.getByRole('region', { name: 'Promised without a technician: 2.0 h' });
    expect(promised).toHaveTextContent('W-9 Seagate Hall Noisy door, 14:00–16:00');
    expect(sheet.getByText(/Nothing came in at short notice/)).toBeVisible();
  });

  it('is asked for one skill, and for other weeks', async () => {
    const { user } = await show();
    await screen.findByRole('option', { name: 'Rescue' });
    await user.selectOptions(screen.getByLabelText('Skill'), 'Rescue');
    await user.click(screen.getByRole('button', { name: 'A week on' }));
    await waitFor(() =>
      expect(asked.filter((row) => row.path === '/api/v1/appointments/capacity')).toHaveLength(3),
    );
    expect(screen.getByText(/of those who have Rescue/)).toBeVisible();
  });

  it('says what went wrong', async () => {
    await show(() => {
      throw new Refusal(422, { code: 'rejected', title: 'That day is out of reach.' });
    });
    expect(await screen.findByText('That day is out of reach.')).toBeVisible();
  });
});

import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { CapacityPage } from '@/features/intake/capacity/CapacityPage';
import { addDays } from '@/shared/time';
import { draw, HOUR, TODAY } from '../../drawn';
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
const OUTLOOK = [
  {
    area: 'Millrace',
    days: [
      cell(TODAY, 12.5, { promised: 2 * HOUR, expected: 1.5 * HOUR }),
      cell(addDays(TODAY, 1), 1.5),
      cell(addDays(TODAY, 2), -3),
      cell(addDays(TODAY, 3), 0, { shifts: 0 }),
    ],
  },
];
const show = async (outlook: unknown = OUTLOOK) => {
  serve({ 'GET /api/planning/capacity': outlook, 'GET /api/people/skills': [{ name: 'Rescue' }] });
  return draw(<CapacityPage />);
};

describe('the capacity outlook', () => {
  it('says what is left to sell, and what is promised and expected', async () => {
    await show();
    const row = await screen.findByRole('row', { name: /^Millrace/ });
    const [today] = within(row).getAllByRole('cell');
    expect(today).toHaveTextContent('12.5−2.0 ~1.5');
    expect(today).toHaveAttribute('title', expect.stringContaining('2.0 promised without a technician'));
  });

  it('warns by sign, not by colour alone, and tells when nobody works', async () => {
    await show();
    const row = await screen.findByRole('row', { name: /^Millrace/ });
    const [, tight, short, nobody] = within(row).getAllByRole('cell');
    expect(tight).toHaveTextContent('▲ 1.5');
    expect(short).toHaveTextContent('■ -3.0');
    expect(nobody).toHaveTextContent('nobody');
  });

  it('is asked for one skill, and for other weeks', async () => {
    const { user } = await show();
    await screen.findByRole('option', { name: 'Rescue' });
    await user.selectOptions(screen.getByLabelText('Skill'), 'Rescue');
    await user.click(screen.getByRole('button', { name: 'A week on' }));
    await waitFor(() => expect(asked.filter((row) => row.path === '/api/planning/capacity')).toHaveLength(3));
    expect(screen.getByText(/and have Rescue/)).toBeVisible();
  });

  it('says what went wrong', async () => {
    await show(() => {
      throw new Refusal(422, { code: 'rejected', title: 'That day is out of reach.' });
    });
    expect(await screen.findByText('That day is out of reach.')).toBeVisible();
  });
});

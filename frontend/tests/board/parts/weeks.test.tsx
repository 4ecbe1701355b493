import { screen, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { MonthView } from '@/features/board/list/MonthView';
import { addDays } from '@/shared/time';
import { draw, HOUR, TODAY } from '../../drawn';
import { Refusal, serve } from '../../server';
import { INES, IVOR } from '../worlds';

const day = (date: string, more = {}) => ({
  date,
  working: 8 * HOUR,
  left: 8 * HOUR,
  work: 0,
  drive: 0,
  overtime: 0,
  visits: 0,
  share: 0,
  ...more,
});
const weeks = (first: object) =>
  Array.from({ length: 35 }, (_, index) => day(addDays(TODAY, index), index === 0 ? first : {}));
const BUSY = { work: 7 * HOUR, drive: 2 * HOUR, overtime: HOUR, visits: 6, share: 1.125 };
const LOAD = [
  { technician_id: 1, name: 'Ines Falk', days: weeks(BUSY) },
  { technician_id: 2, name: 'Ivor Larkin', days: weeks({ working: 0, left: 0 }) },
];

const show = async (load: unknown = LOAD, people = [INES, IVOR]) => {
  serve({ 'GET /api/v1/board/lanes': people, 'GET /api/v1/board/load': load });
  const onDay = vi.fn();
  return { ...(await draw(<MonthView day={TODAY} onDay={onDay} />)), onDay };
};

describe('five weeks', () => {
  it('say how full each day of everybody is, with its driving', async () => {
    await show();
    const row = await screen.findByRole('row', { name: /^Ines Falk/ });
    const [first] = within(row).getAllByRole('cell');
    expect(first).toHaveTextContent('113+');
    expect(first).toHaveAttribute(
      'title',
      '2026-11-27: 6 visits, 7 h of work and 2 h of driving in 8 h, 1 h of overtime',
    );
  });

  it('say that there is nobody whose days could be counted', async () => {
    await show([], []);
    expect(await screen.findByText(/There are no technicians yet/)).toBeVisible();
  });

  it('leave a day without a shift empty', async () => {
    await show();
    const row = await screen.findByRole('row', { name: /^Ivor Larkin/ });
    expect(within(row).getAllByRole('cell')[0]).toHaveTextContent('·');
  });

  it('sum up everybody', async () => {
    await show();
    const row = await screen.findByRole('row', { name: /^Everybody/ });
    // Only Ines has a shift today.
    expect(within(row).getAllByRole('cell')[0]).toHaveTextContent('113+');
    expect(within(row).getAllByRole('cell')).toHaveLength(35);
  });

  it('open a day on the board', async () => {
    const { user, onDay } = await show();
    await user.click(await screen.findByRole('button', { name: /Open 2026-11-30/ }));
    expect(onDay).toHaveBeenCalledWith('2026-11-30');
  });

  it('can be asked for again when they did not come', async () => {
    let times = 0;
    const { user } = await show(() => {
      times += 1;
      if (times === 1) throw new Refusal(500, { code: 'http', title: 'The server met an error.' });
      return LOAD;
    });
    expect(await screen.findByText(/The server met an error\./)).toBeVisible();
    await user.click(screen.getByRole('button', { name: 'Try again' }));
    expect(await screen.findByRole('row', { name: /^Ines Falk/ })).toBeVisible();
  });
});

import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { Openings } from '@/features/board/openings/Openings';
import { at, draw, TODAY } from '../../drawn';
import { asked, askedOf, Refusal, serve } from '../../server';
import { detail, placed } from '../worlds';

const OPENINGS = 'GET /api/v1/visits/7/openings';
const seat = (technician_id: number, technician: string, more = {}) => ({
  technician_id,
  technician,
  day: TODAY,
  drive_before: 300,
  added_drive: 600,
  ...more,
});
const opening = (minutes: number, seats = [seat(1, 'Ines Falk')], more = {}) => ({
  start: at(13),
  end: at(14),
  minutes,
  seats,
  parts: [{ aim: 'driving', name: 'Driving time', minutes: 10 }],
  reasons: ['Inside the promise, 1 h to spare'],
  ...more,
});
const found = (openings: object[], excluded: object[] = []) => ({
  considered: 120,
  possible: openings.length,
  openings,
  in_short:
    excluded.length > 0
      ? [`${excluded.length} of ${excluded.length} technicians: Door drives 3 is needed`]
      : [],
  excluded,
});

const show = async (given: unknown, more = {}) => {
  serve({ [OPENINGS]: given, 'POST /api/v1/visits/7/place': placed(7) });
  const onShow = vi.fn();
  const drawn = await draw(<Openings visit={detail(7, more)} day={TODAY} onShow={onShow} />);
  return { ...drawn, onShow };
};

describe('openings of a visit', () => {
  it('are ranked, each with its reasons and what it costs', async () => {
    await show(found([opening(13), opening(22, [seat(2, 'Ivor Larkin')])]));
    const rows = within(await screen.findByTestId('openings')).findAllByRole('listitem');
    const [first, second] = await rows;
    expect(first).toHaveTextContent(/^1Ines Falk.*13:00–14:00.*Inside the promise, 1 h to spare/);
    expect(first).toHaveTextContent('Costs 13 min of driving in all, 10 min of it on the road');
    expect(second).toHaveTextContent(/^2Ivor Larkin/);
    expect(screen.getByText('120 places looked at, 2 can take it')).toBeVisible();
  });

  it('are few at first', async () => {
    const { user } = await show(
      found(Array.from({ length: 6 }, (_, index) => opening(index, [seat(index + 1, 'Ines Falk')]))),
    );
    expect(await screen.findAllByRole('button', { name: /^Place:/ })).toHaveLength(3);
    await user.click(screen.getByRole('button', { name: '3 more' }));
    expect(screen.getAllByRole('button', { name: /^Place:/ })).toHaveLength(6);
  });

  it('place a crew whole', async () => {
    const { user } = await show(found([opening(13, [seat(1, 'Ines Falk'), seat(2, 'Ivor Larkin')])]));
    await user.click(await screen.findByRole('button', { name: 'Place: Ines Falk + Ivor Larkin, 13:00' }));
    await waitFor(() =>
      expect(askedOf('POST /api/v1/visits/7/place')[0]?.body).toMatchObject({
        technician_id: 1,
        mates: [2],
        start: at(13),
      }),
    );
  });

  it('are drawn on the line while one looks at them', async () => {
    const { user, onShow } = await show(found([opening(13)]));
    await user.hover(await screen.findByText('Ines Falk'));
    expect(onShow).toHaveBeenLastCalledWith({ visitId: 7, technicianId: 1, start: at(13) });
  });

  it('are looked for from the promised day, and never from one that is over', async () => {
    const wanted = () => asked.map((row) => row.path).length;
    await show(found([]), { promise: { start: at(-24), end: at(-22) } });
    await screen.findByText(/Nobody can take it in the week from Fri 27 Nov/);
    expect(wanted()).toBe(1);
  });

  it('say who cannot take it, and why not', async () => {
    const reasons = ['Door drives 3 needed, Ivor Larkin has level 1'];
    const { user } = await show(found([], [{ technician_id: 2, technician: 'Ivor Larkin', reasons }]));
    const short = await screen.findByRole('list', { name: 'What keeps them out' });
    expect(short).toHaveTextContent('1 of 1 technicians: Door drives 3 is needed');
    expect(screen.getByText(reasons[0]!)).not.toBeVisible();
    await user.click(screen.getByText('1 technicians cannot take it'));
    expect(screen.getByText(reasons[0]!)).toBeVisible();
  });

  it('can be asked for again when the planner did not answer', async () => {
    let times = 0;
    const { user } = await show(() => {
      times += 1;
      if (times === 1) throw new Refusal(503, { code: 'no_planner', title: 'The planner does not answer.' });
      return found([opening(13)]);
    });
    expect(await screen.findByText('The planner does not answer.')).toBeVisible();
    await user.click(screen.getByRole('button', { name: 'Try again' }));
    expect(await screen.findByText('Ines Falk')).toBeVisible();
  });
});

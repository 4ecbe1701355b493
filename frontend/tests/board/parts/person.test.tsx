import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { Absences } from '@/features/board/person/Absences';
import { AboutLane } from '@/features/board/person/AboutLane';
import { Reminders } from '@/features/board/person/Reminders';
import { at, draw, HOUR, TODAY } from '../../drawn';
import { askedOf, Refusal, serve } from '../../server';
import { INES, lane, laneDay, visit } from '../worlds';

const NOTE = 'POST /api/v1/people/absences';

describe('a technician who is away', () => {
  const show = async (
    visits = [visit(1), visit(2, { state: 'on_site', movable: false, start: at(9) })],
    who = INES,
  ) => {
    serve({ [NOTE]: { id: 8 }, 'DELETE /api/v1/people/absences/8': null });
    const onLeft = vi.fn();
    const part = <Absences lane={who} day={TODAY} visits={visits} canPlan onLeft={onLeft} />;
    return { ...(await draw(part)), onLeft };
  };

  it('is noted for the whole day, and what nobody has begun looks for others', async () => {
    const { user, onLeft } = await show();
    await user.type(await screen.findByLabelText('Why'), 'ill');
    await user.click(screen.getByRole('button', { name: 'Note as absent' }));
    await waitFor(() => expect(onLeft).toHaveBeenCalled());
    expect(askedOf(NOTE)[0]!.body).toEqual({ technician_id: 1, start: at(0), end: at(24), reason: 'ill' });
    expect(onLeft.mock.calls[0]![0].map((row: { id: number }) => row.id)).toEqual([1]);
  });

  it('is noted from an hour on', async () => {
    const { user } = await show();
    await user.type(await screen.findByLabelText('From'), '13');
    await user.type(screen.getByLabelText('at'), '1530');
    await user.click(screen.getByRole('button', { name: 'Note as absent' }));
    await waitFor(() => expect(askedOf(NOTE)[0]?.body).toMatchObject({ start: at(13), end: at(15, 30) }));
  });

  it('leaves visits alone that are at another time', async () => {
    const { user, onLeft } = await show([
      visit(1, { start: at(9), expected_start: at(9), expected_end: at(10) }),
    ]);
    await user.type(await screen.findByLabelText('From'), '13');
    await user.click(screen.getByRole('button', { name: 'Note as absent' }));
    await waitFor(() => expect(askedOf(NOTE)).toHaveLength(1));
    expect(onLeft).not.toHaveBeenCalled();
  });

  it('is not noted at a time that nobody can read', async () => {
    const { user } = await show();
    await user.type(await screen.findByLabelText('From'), 'noon');
    expect(screen.getByText('Like 830')).toBeVisible();
    expect(screen.getByRole('button', { name: 'Note as absent' })).toBeDisabled();
  });

  it('is there after all', async () => {
    const away = { id: 8, start: at(0), end: at(24), reason: 'ill' };
    const { user } = await show([], lane(1, 'Ines Falk', { days: [laneDay({ absences: [away] })] }));
    expect(await screen.findByText('Fri 27 Nov, all day: ill')).toBeVisible();
    await user.click(screen.getByRole('button', { name: 'There after all' }));
    await waitFor(() => expect(askedOf('DELETE /api/v1/people/absences/8')).toHaveLength(1));
  });
});

describe('reminders', () => {
  const row = (more = {}) => ({
    id: 3,
    version: 1,
    technician_id: 1,
    at: at(11, 20),
    text: 'Loan van',
    done: false,
    by: 'Dora Quill',
    ...more,
  });
  const CHANGE = 'PUT /api/v1/reminders/3';
  const show = async (
    reminders = [row()],
    canPlan = true,
    changed: unknown = row({ done: true, version: 2 }),
  ) => {
    serve({
      [CHANGE]: changed,
      'POST /api/v1/reminders': row({ id: 4 }),
      'DELETE /api/v1/reminders/3': null,
    });
    const who = lane(1, 'Ines Falk', { days: [laneDay({ reminders })] });
    return draw(<Reminders lane={who} day={TODAY} canPlan={canPlan} />);
  };

  it('are ticked, and the tick stays while the board looks again', async () => {
    const { user } = await show();
    const tick = await screen.findByLabelText('Done: Loan van');
    await user.click(tick);
    await waitFor(() => expect(askedOf(CHANGE)[0]?.body).toMatchObject({ done: true, version: 1 }));
    expect(tick).toBeChecked();
  });

  it('are ticked with the press itself, not some moments later', async () => {
    await show();
    const tick = await screen.findByLabelText('Done: Loan van');
    fireEvent.click(tick);
    expect(tick).toBeChecked();
  });

  it('lose a tick that was refused', async () => {
    const { user } = await show([row()], true, () => {
      throw new Refusal(409, { code: 'stale', title: 'Somebody changed this reminder' });
    });
    const tick = await screen.findByLabelText('Done: Loan van');
    await user.click(tick);
    expect(await screen.findByText(/Somebody changed this reminder/)).toBeVisible();
    await waitFor(() => expect(tick).not.toBeChecked());
  });

  it('are added with a time as people type it', async () => {
    const { user } = await show([]);
    const form = await screen.findByRole('form', { name: 'Remind' });
    await user.type(within(form).getByLabelText('At'), '1430');
    await user.type(within(form).getByLabelText('Think of'), 'Ring the porter');
    await user.click(within(form).getByRole('button', { name: 'Remind' }));
    await waitFor(() =>
      expect(askedOf('POST /api/v1/reminders')[0]?.body).toMatchObject({
        technician_id: 1,
        at: at(14, 30),
        text: 'Ring the porter',
      }),
    );
  });

  it('are removed', async () => {
    const { user } = await show();
    await user.click(await screen.findByRole('button', { name: 'Remove the reminder: Loan van' }));
    await waitFor(() => expect(askedOf('DELETE /api/v1/reminders/3')).toHaveLength(1));
  });

  it('are only read by whoever may not plan, and not there when there is none', async () => {
    await show([row()], false);
    expect(await screen.findByLabelText('Done: Loan van')).toBeDisabled();
    expect(screen.queryByRole('form')).toBeNull();
  });
});

describe('what the head of a line says when one comes near', () => {
  it('is hours, skills, areas and how to reach them', async () => {
    serve({});
    const timetable = { ...laneDay().timetable, drive_seconds: HOUR, work_seconds: 3 * HOUR };
    await draw(<AboutLane lane={lane(1, 'Ines Falk', { days: [laneDay({ timetable })] })} />);
    expect(await screen.findByText(/4 h · 25 % of it driving/)).toBeVisible();
    expect(screen.getByText('Door drives 3')).toBeVisible();
    expect(screen.getByRole('link', { name: '+351 296 700 100' })).toHaveAttribute(
      'href',
      'tel:+351 296 700 100',
    );
  });

  it('warns of papers that end soon, and louder of those that have ended', async () => {
    serve({});
    const certificates = [
      { name: 'Rope access', number: 'R-1', valid_until: '2026-12-10' },
      { name: 'First aid', number: 'F-1', valid_until: '2026-11-01' },
      { name: 'Welding', number: 'W-1', valid_until: null },
    ];
    await draw(<AboutLane lane={lane(1, 'Ines Falk', { certificates })} />);
    expect(await screen.findByTitle('R-1')).toHaveClass('text-warn');
    expect(screen.getByTitle('F-1')).toHaveTextContent('First aid, ended 2026-11-01');
    expect(screen.getByTitle('F-1')).toHaveClass('text-bad');
    expect(screen.getByTitle('W-1')).toHaveTextContent(/^Welding$/);
  });
});

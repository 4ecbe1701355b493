import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import type { SchemaRunDetailOut } from '@/api/types';
import { ProposalView } from '@/features/scheduling/runs/ProposalView';
import { at, draw, TODAY } from '../../drawn';
import { askedOf, serve } from '../../server';

const ACCEPT = 'POST /api/v1/runs/4/accept';
const placing = (technician_id: number, technician: string, start: number) => ({
  technician_id,
  technician,
  day: TODAY,
  start,
});
const change = (visit_id: number, more = {}) => ({
  visit_id,
  version: 2,
  kind: 'place',
  label: `W-${visit_id} Hall`,
  title: 'Door upkeep',
  site: 'Seagate Hall',
  before: [],
  after: [placing(1, 'Ines Falk', at(13))],
  reasons: ['Inside the promise, 1 h to spare'],
  taken: false,
  seconds: 3600,
  lon: 0,
  lat: 0,
  ...more,
});
const measures = (more = {}) => ({
  left: 9,
  promised_left: 2,
  late: 0,
  drive_seconds: 7200,
  drive_metres: 50_000,
  overtime_seconds: 0,
  ...more,
});
const run = (more = {}, proposal = {}) =>
  ({
    id: 4,
    kind: 'fill',
    accepted_at: null,
    proposal: {
      before: measures(),
      after: measures({ left: 7, promised_left: 0, drive_seconds: 9000 }),
      changes: [change(1), change(2)],
      aims: [{ aim: 'driving', name: 'Driving time', before: 120, after: 150 }],
      broken_before: 0,
      broken_after: [],
      unserved: [],
      seed: 1,
      seconds: 5,
      iterations: 100,
      stopped: false,
      ...proposal,
    },
    ...more,
  }) as unknown as SchemaRunDetailOut;

const show = async (given = run(), left: ReadonlySet<number> = new Set()) => {
  serve({ [ACCEPT]: { changed: [1, 2], added: [] }, 'POST /api/v1/board/undo': {} });
  const on = { onLeft: vi.fn(), onShow: vi.fn(), onVisit: vi.fn() };
  return { ...(await draw(<ProposalView run={given} left={left} {...on} />)), ...on };
};

describe('a proposal', () => {
  it('says what it comes to in what a dispatcher counts', async () => {
    await show();
    const table = await screen.findByRole('table', { name: 'What it comes to' });
    expect(within(table).getByRole('row', { name: /Visits without a place 9 .*7/ })).toBeVisible();
    expect(within(table).getByRole('row', { name: /of them promised 2 .*0/ })).toBeVisible();
    expect(within(table).getByRole('row', { name: /Driving 2 h .*2 h 30/ })).toBeVisible();
    expect(within(table).queryByRole('row', { name: /Overtime/ })).toBeNull();
  });

  it('of an older run, without measures, shows how the playbook weighs it', async () => {
    await show(run({}, { before: null, after: null }));
    expect(await screen.findByRole('row', { name: /Driving time 120 .*150/ })).toBeVisible();
    expect(screen.queryByRole('table', { name: 'What it comes to' })).toBeNull();
  });

  it('says of each change who, when and why', async () => {
    const moved = change(3, {
      kind: 'move',
      before: [placing(2, 'Ivor Larkin', at(9))],
      after: [placing(1, 'Ines Falk', at(13))],
    });
    await show(run({}, { changes: [moved] }));
    const [row] = await screen.findAllByRole('listitem');
    expect(row).toHaveTextContent('Move Door upkeep, Seagate Hall');
    expect(row).toHaveTextContent(/Ivor Larkin, Fri 27 Nov 09:00.*→ Ines Falk, Fri 27 Nov 13:00/);
    expect(row).toHaveTextContent('Inside the promise, 1 h to spare');
  });

  it('is accepted whole', async () => {
    const { user } = await show();
    await user.click(await screen.findByRole('button', { name: 'Accept all 2' }));
    await waitFor(() => expect(askedOf(ACCEPT)[0]?.body).toEqual({ visit_ids: [1, 2] }));
  });

  it('is accepted in part: without what was unticked', async () => {
    const { user } = await show(run(), new Set([2]));
    await user.click(await screen.findByRole('button', { name: 'Accept 1 ticked' }));
    await waitFor(() => expect(askedOf(ACCEPT)[0]?.body).toEqual({ visit_ids: [1] }));
  });

  it('tells which changes are unticked', async () => {
    const { user, onLeft } = await show();
    await user.click(await screen.findByLabelText('Take over: W-2 Hall'));
    expect(onLeft).toHaveBeenCalledWith(new Set([2]));
    await user.click(screen.getByRole('button', { name: 'Tick none' }));
    expect(onLeft).toHaveBeenLastCalledWith(new Set([1, 2]));
  });

  it('shows a change on the line while one looks at it', async () => {
    const { user, onShow } = await show();
    await user.hover(await screen.findByLabelText('Take over: W-1 Hall'));
    expect(onShow).toHaveBeenLastCalledWith({ visitId: 1, technicianId: 1, start: at(13) });
  });

  it('says why the others stay in the backlog', async () => {
    const unserved = [{ visit_id: 9, label: 'W-9', title: 'Rope change', reasons: ['Rigging 3 needed'] }];
    const { user, onVisit } = await show(run({}, { unserved }));
    await user.click(await screen.findByText('1 visit stays in the backlog'));
    expect(screen.getByText('Rigging 3 needed')).toBeVisible();
    await user.click(screen.getByRole('button', { name: /Rope change/ }));
    expect(onVisit).toHaveBeenCalledWith(9);
  });

  it('that changes nothing says so', async () => {
    await show(run({}, { changes: [] }));
    expect(await screen.findByText(/Nothing was found that would help/)).toBeVisible();
    expect(screen.queryByRole('button', { name: /Accept/ })).toBeNull();
  });

  it('that was accepted in part says how much of it, and can be accepted no more', async () => {
    const changes = [change(1, { taken: true }), change(2)];
    await show(run({ accepted_at: at(10) }, { changes }));
    expect(await screen.findByText(/Accepted in part: 1/)).toBeVisible();
    expect(screen.queryByRole('button', { name: /Accept/ })).toBeNull();
    expect(screen.getByLabelText('Take over: W-1 Hall')).toBeDisabled();
  });
});

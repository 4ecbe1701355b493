import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { Responders } from '@/features/board/details/Responders';
import { at, draw } from '../../drawn';
import { askedOf, Refusal, serve } from '../../server';
import { detail, placed } from '../worlds';

const responder = (technician_id: number, name: string, more = {}) => ({
  technician_id,
  name,
  phone: '',
  doing: 'at Seagate Hall, free about 11:00',
  drive_seconds: 420,
  start: at(11, 10),
  reasons: [],
  asks: false,
  costs: 720,
  in_time: true,
  soonest: false,
  gives_way: [],
  ...more,
});

const way = (visit_id: number, more = {}) => ({
  visit_id,
  version: 4,
  technician_id: 9,
  label: `W-${visit_id} Mill`,
  promise: { start: at(11), end: at(12) },
  starts: at(12, 20),
  later_seconds: 4800,
  breaks: ['20 min after the promise 11:00–12:00'],
  elsewhere: { technician_id: 2, name: 'Ivor Larkin', start: at(11, 30), extra_drive_seconds: 480 },
  ...more,
});

const show = async (rows: object[], given: unknown = placed(7), decision: object = {}) => {
  serve({
    'GET /api/v1/visits/7/responders': rows,
    'GET /api/v1/visits/7/give': {
      start: at(11, 10),
      by: null,
      reasons: [],
      gives_way: [],
      ...decision,
    },
    'POST /api/v1/visits/7/give': given,
  });
  const onRepair = vi.fn();
  const drawn = await draw(<Responders visit={detail(7)} onRepair={onRepair} />);
  await drawn.user.click(await screen.findByRole('button', { name: 'Who can be there first?' }));
  return { ...drawn, onRepair };
};

describe('urgent work', () => {
  it('finds who can be there first, with what they are doing and the drive', async () => {
    await show([responder(1, 'Ines Falk'), responder(2, 'Ivor Larkin', { start: at(11, 30) })]);
    const [first] = within(await screen.findByRole('list', { name: 'Who can be there first' })).getAllByRole(
      'listitem',
    );
    expect(first).toHaveTextContent('Ines Falk');
    expect(first).toHaveTextContent('free about 11:00 · 7 min to drive');
    expect(within(first!).getByRole('button', { name: 'Give, 11:10' })).toBeVisible();
  });

  it('is given at once, and says that nothing else is broken', async () => {
    const { user } = await show([responder(1, 'Ines Falk')]);
    await user.click(await screen.findByRole('button', { name: 'Give, 11:10' }));
    expect(await screen.findByText('Nothing else is broken by it.')).toBeVisible();
    expect(askedOf('POST /api/v1/visits/7/give')[0]!.body).toMatchObject({
      technician_id: 1,
      start: at(11, 10),
      because: '',
    });
  });

  it('shows what it displaces, and the way to repair the day', async () => {
    const warned = placed(7, [
      { weight: 'warns', sentence: 'W-2 Hall: 20 min after the promise 11:00–12:00' },
    ]);
    const { user, onRepair } = await show([responder(1, 'Ines Falk')], warned);
    await user.click(await screen.findByRole('button', { name: 'Give, 11:10' }));
    const told = (await screen.findByText(/What it breaks/)).parentElement;
    expect(told).toHaveTextContent('W-2 Hall: 20 min after the promise 11:00–12:00');
    await user.click(screen.getByRole('button', { name: 'Repair the day' }));
    expect(onRepair).toHaveBeenCalled();
  });

  it('says what each costs, who is soonest, and who is too late', async () => {
    await show([
      responder(1, 'Ines Falk', { soonest: true, gives_way: ['W-2 Mill 35 min later'] }),
      responder(2, 'Ivor Larkin', { in_time: false, costs: 5400 }),
    ]);
    const rows = within(await screen.findByRole('list', { name: 'Who can be there first' }));
    expect(rows.getByText('soonest')).toBeVisible();
    expect(rows.getByText('too late')).toBeVisible();
    expect(rows.getByText('Gives way: W-2 Mill 35 min later')).toBeVisible();
    expect(rows.getByText('Costs as much as 1 h 30 of driving, nobody gives way')).toBeVisible();
  });

  it('decides what gives way with it: a broken promise goes elsewhere unless somebody says otherwise', async () => {
    const later = way(3, { breaks: [], later_seconds: 600, starts: at(13) });
    const { user } = await show([responder(1, 'Ines Falk', { gives_way: ['W-2', 'W-3'] })], placed(7), {
      gives_way: [way(2), later],
    });
    await user.click(await screen.findByRole('button', { name: /^Give, 11:10 ?…/ }));
    const form = within(await screen.findByRole('form', { name: 'What gives way' }));
    expect(form.getAllByRole('radio', { checked: true })).toHaveLength(2);
    expect(form.getAllByLabelText(/^To Ivor Larkin at 11:30, 8 min more driving/)[0]).toBeChecked();
    expect(form.getByLabelText('Stays, 10 min later at 13:00')).toBeChecked();
    await user.click(form.getByRole('button', { name: 'Give it, and do this' }));
    await waitFor(() =>
      expect(askedOf('POST /api/v1/visits/7/give')[0]?.body).toMatchObject({
        moves: [
          { visit_id: 2, version: 4, technician_id: 2, start: at(11, 30) },
          { visit_id: 3, version: 4, technician_id: 9, start: at(13) },
        ],
      }),
    );
  });

  it('asks why where a limit is overridden, and gives it with the reason', async () => {
    const reasons = [{ weight: 'asks', sentence: '1 h before the promise', limit: null }];
    const { user } = await show([responder(1, 'Ines Falk', { asks: true })], placed(7), { reasons });
    await user.click(await screen.findByRole('button', { name: /^Give, 11:10 ?…/ }));
    expect(askedOf('POST /api/v1/visits/7/give')).toHaveLength(0);
    await user.type(await screen.findByLabelText('Why all the same'), 'They are trapped{Enter}');
    await waitFor(() =>
      expect(askedOf('POST /api/v1/visits/7/give')[0]?.body).toMatchObject({
        because: 'They are trapped',
      }),
    );
  });

  it('asks why when what gives way leaves a question open, and nothing chosen is lost', async () => {
    const refused = () => {
      throw new Refusal(422, { code: 'reason_needed', title: 'Say why.', reasons: ['Overlaps W-9'] });
    };
    const { user } = await show([responder(1, 'Ines Falk', { gives_way: ['W-2'] })], refused, {
      gives_way: [way(2)],
    });
    await user.click(await screen.findByRole('button', { name: /^Give, 11:10 ?…/ }));
    await user.click(await screen.findByLabelText('Back to the backlog, still promised'));
    await user.click(screen.getByRole('button', { name: 'Give it, and do this' }));
    expect(await screen.findByText('Overlaps W-9')).toBeVisible();
    expect(screen.getByLabelText('Back to the backlog, still promised')).toBeChecked();
    expect(screen.getByRole('button', { name: 'Give it, and do this' })).toBeDisabled();
  });

  it('shows a few, and all of them to whoever wants somebody in particular', async () => {
    const { user } = await show(
      Array.from({ length: 8 }, (_, index) => responder(index + 1, `Nr ${index + 1}`)),
    );
    const list = await screen.findByRole('list', { name: 'Who can be there first' });
    expect(within(list).getAllByRole('button')).toHaveLength(5);
    await user.click(screen.getByRole('button', { name: '3 more' }));
    expect(within(list).getAllByRole('button')).toHaveLength(8);
  });

  it('says so when nobody may take it', async () => {
    await show([]);
    expect(await screen.findByText(/Nobody at work now may take it/)).toBeVisible();
  });
});

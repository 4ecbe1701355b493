import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { CommandField } from '@/features/board/lanes/CommandField';
import { commandActs } from '@/features/board/lanes/commandActs';
import { draw, TODAY } from '../../drawn';
import { serve } from '../../server';
import { INES, IVOR, visit, waiting } from '../worlds';

const hands = () => ({
  change: vi.fn(),
  onTake: vi.fn(),
  onOpenings: vi.fn(),
  onDeed: vi.fn(),
  onBulk: vi.fn(),
  onOrder: vi.fn(),
  onToday: vi.fn(),
  onGap: vi.fn(),
  onLegend: vi.fn(),
  onCrews: vi.fn(),
  onUndo: vi.fn(),
  onRedo: vi.fn(),
  onSend: vi.fn(),
  onLock: vi.fn(),
});
const acts = (chosen: Parameters<typeof commandActs>[0]['visit'] = null, canPlan = true) => {
  const on = hands();
  const found = commandActs({ day: TODAY, canPlan, visit: chosen, ...on });
  const run = (words: string) => found.find((act) => act.words === words)!.run();
  return { on, words: found.map((act) => act.words), run };
};

describe('what can be done by typing', () => {
  it('begins with the visit one looks at', () => {
    const { words, run, on } = acts(visit(7, { state: 'placed' }));
    expect(words.slice(0, 3)).toEqual([
      'W-7: the whole order',
      'W-7: what waits near it',
      'W-7: what could come next',
    ]);
    run('W-7: send it');
    expect(on.onBulk).toHaveBeenCalledWith('send', expect.objectContaining({ id: 7 }));
    run('W-7: lock it where it is');
    expect(on.onBulk).toHaveBeenCalledWith('lock', expect.objectContaining({ id: 7 }));
    run('W-7: back to the backlog');
    expect(on.onDeed).toHaveBeenCalledWith(expect.objectContaining({ kind: 'unplace' }));
    run('W-7: what waits near it');
    expect(on.change).toHaveBeenCalledWith(
      expect.objectContaining({ waiting: { lon: -24.6, lat: 47.2, metres: 3000, sort: 'nearest' } }),
    );
  });

  it('offers only what the state of the visit allows', () => {
    const of = (more: object) => acts(visit(7, more)).words.filter((words) => words.startsWith('W-7'));
    expect(of({ state: 'sent' })).not.toContain('W-7: send it');
    expect(of({ pinned: true })).toContain('W-7: unlock it');
    expect(of({ state: 'done', movable: false, over: true })).not.toContain('W-7: take it up with the keys');
    const open = acts(waiting(7)).words.filter((words) => words.startsWith('W-7'));
    expect(open).toContain('W-7: take it up with the keys');
    expect(open).not.toContain('W-7: back to the backlog');
  });

  it('offers each way to draw the board', () => {
    const { run, on } = acts();
    run('Columns: 15 minutes');
    run('Hue of a visit: job type');
    run('Sorted by: most free time');
    run('Technicians: by crew');
    expect(on.change.mock.calls.map(([changes]) => changes)).toEqual([
      { column: 15 },
      { hue: 'job' },
      { sort: 'free' },
      { group: 'crew' },
    ]);
  });

  it('plans nothing for whoever may not', () => {
    const { words } = acts(visit(7), false);
    expect(words).toContain('Show a week');
    expect(words.filter((row) => /^(Undo|Lock|Send|Ask)/.test(row))).toEqual([]);
    expect(words).not.toContain('W-7: send it');
  });
});

describe('the field for everything', () => {
  const open = async () => {
    serve({
      'GET /api/v1/board/lanes': [INES, IVOR],
      'GET /api/v1/visits': [visit(7, { title: 'Lift stopped' })],
      'GET /api/v1/customers': [{ customer: { id: 5, name: 'Falk & Sons' }, site: null }],
    });
    const on = {
      onOpenChange: vi.fn(),
      onDay: vi.fn(),
      onTechnician: vi.fn(),
      onVisit: vi.fn(),
      onAbsent: vi.fn(),
    };
    const undo = vi.fn();
    const found = [
      { words: 'Undo', keys: 'Ctrl Z', run: undo },
      { words: 'Show a week', run: vi.fn() },
    ];
    return { ...(await draw(<CommandField open acts={found} {...on} />)), ...on, undo };
  };

  it('finds technicians first, then visits and customers', async () => {
    const { user, onTechnician } = await open();
    await user.type(await screen.findByPlaceholderText(/Order, customer/), 'falk');
    await screen.findByText('Falk & Sons');
    const groups = [...document.querySelectorAll('[cmdk-group-heading]')].map((row) => row.textContent);
    expect(groups).toEqual(['Technicians', 'Visits', 'Customers']);
    await user.click(screen.getByText('Ines Falk'));
    expect(onTechnician).toHaveBeenCalledWith(1);
  });

  it('goes to a day as people type it', async () => {
    const { user, onDay } = await open();
    await user.type(await screen.findByPlaceholderText(/Order, customer/), '+3');
    await user.click(await screen.findByText(/Go to Mon 30 Nov/));
    expect(onDay).toHaveBeenCalledWith('2026-11-30');
  });

  it('knows the days of the week', async () => {
    const { user, onDay } = await open();
    await user.type(await screen.findByPlaceholderText(/Order, customer/), 'mon');
    await user.click(await screen.findByText(/Go to Mon 30 Nov/));
    expect(onDay).toHaveBeenCalledWith('2026-11-30');
  });

  it('leads from "sick" to the absence of whoever it is', async () => {
    const { user, onAbsent } = await open();
    const field = await screen.findByPlaceholderText(/Order, customer/);
    await user.type(field, 'sick');
    expect(await screen.findAllByText(/ is absent…/)).toHaveLength(2);
    await user.type(field, ' ivor');
    await waitFor(() => expect(screen.getAllByText(/ is absent…/)).toHaveLength(1));
    await user.click(screen.getByText(/Ivor .* is absent…/));
    expect(onAbsent).toHaveBeenCalledWith(IVOR.technician_id);
  });

  it('does what is typed, and closes', async () => {
    const { user, undo, onOpenChange } = await open();
    await user.type(await screen.findByPlaceholderText(/Order, customer/), 'und{Enter}');
    await waitFor(() => expect(undo).toHaveBeenCalled());
    expect(onOpenChange).toHaveBeenCalledWith(false);
  });

  it('keeps what is marked when something is found later', async () => {
    const { user, undo, onVisit } = await open();
    const field = await screen.findByPlaceholderText(/Order, customer/);
    await user.type(field, 'und');
    await screen.findByText('Falk & Sons');
    await user.type(field, '{Enter}');
    await waitFor(() => expect(undo).toHaveBeenCalled());
    expect(onVisit).not.toHaveBeenCalled();
  });

  it('does not offer what was found for other words', async () => {
    const { user } = await open();
    const field = await screen.findByPlaceholderText(/Order, customer/);
    await user.type(field, 'qq');
    await screen.findByText('Falk & Sons');
    await user.type(field, 'q');
    expect(screen.queryByText('Falk & Sons')).toBeNull();
    expect(await screen.findByText('Falk & Sons')).toBeVisible();
  });

  it('says so when nothing is called that', async () => {
    const { user } = await open();
    serve({ 'GET /api/v1/board/lanes': [], 'GET /api/v1/visits': [], 'GET /api/v1/customers': [] });
    await user.type(await screen.findByPlaceholderText(/Order, customer/), 'qqqq');
    expect(await screen.findByText('Nothing is called that.')).toBeVisible();
  });
});

import { screen, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { BoardBar } from '@/features/board/lanes/BoardBar';
import type { Board } from '@/features/board/model';
import type { BoardSearch } from '@/features/board/search';
import { draw, TODAY } from '../../drawn';
import { askedOf, serve } from '../../server';
import { board, INES, visit, finding } from '../worlds';

interface Given {
  board?: Board;
  day?: string;
  search?: BoardSearch;
  canPlan?: boolean;
  undo?: string;
  redo?: string;
  stale?: boolean;
}

const bar = async (given: Given = {}) => {
  const change = (sentence?: string) => (sentence ? [{ sentence }] : []);
  serve({
    'GET /api/v1/board/undo': { undo: change(given.undo), redo: change(given.redo) },
    'POST /api/v1/board/lock-days': { changed: 1 },
    'POST /api/v1/printouts': { id: 7, state: 'printing', orders: 40, share: 0.25, failure: '' },
    'GET /api/v1/printouts/7': { id: 7, state: 'done', orders: 40, share: 1, failure: '' },
  });
  const on = {
    change: vi.fn(),
    onUndo: vi.fn(),
    onRedo: vi.fn(),
    onCrews: vi.fn(),
    onLegend: vi.fn(),
  };
  const drawn = await draw(
    <BoardBar
      board={given.board ?? board([visit(1), visit(2, { lamp: 'watch' })])}
      day={given.day ?? TODAY}
      search={given.search ?? {}}
      canPlan={given.canPlan ?? true}
      stale={given.stale ?? false}
      {...on}
    />,
  );
  await screen.findByRole('heading');
  return { ...drawn, ...on };
};

describe('which days are shown', () => {
  it('names one day', async () => {
    await bar();
    expect(screen.getByRole('heading')).toHaveTextContent('Fri 27 Nov');
  });

  it('names the first and the last of several', async () => {
    await bar({ search: { span: 7 } });
    expect(screen.getByRole('heading')).toHaveTextContent('Fri 27 – Thu 3 Dec');
  });

  it.each([
    [undefined, 'Day before', '2026-11-26'],
    [undefined, 'Day after', '2026-11-28'],
    [7, 'Days before', '2026-11-20'],
    [14, 'Days after', '2026-12-11'],
  ] as const)('goes on by what is shown: %s days, %s', async (span, name, day) => {
    const { user, change } = await bar({ search: { span } });
    await user.click(screen.getByRole('button', { name }));
    expect(change).toHaveBeenCalledWith({ day });
  });

  it('leads back to today, from elsewhere only', async () => {
    const { user, change } = await bar({ day: '2026-12-02' });
    await user.click(screen.getByRole('button', { name: 'Today' }));
    expect(change).toHaveBeenCalledWith({ day: undefined });
  });

  it('does not lead to today when it is there', async () => {
    await bar();
    expect(screen.getByRole('button', { name: 'Today' })).toBeDisabled();
  });

  it('goes to the day that is chosen, and stays when none is', async () => {
    const { user, change } = await bar();
    await user.click(screen.getByTitle('Go to a day: fri, 2.12, +3'));
    await user.keyboard('24.12');
    // Nothing happens while it is being typed.
    expect(change).not.toHaveBeenCalled();
    await user.keyboard('{Enter}');
    expect(change).toHaveBeenLastCalledWith({ day: '2026-12-24' });
    await user.click(screen.getByTitle('Go to a day: fri, 2.12, +3'));
    await user.keyboard('nonsense{Enter}');
    expect(screen.getByRole('alert')).toHaveTextContent('no day');
    await user.keyboard('{Escape}');
    expect(change).toHaveBeenCalledTimes(1);
  });

  it.each([
    ['Days shown', 'Week', { span: 7 }],
    ['Days shown', 'Day', { span: undefined }],
    ['Shown as', 'Lanes + map', { view: 'both' }],
    ['Shown as', 'Lanes', { view: undefined }],
  ])('keeps only what is out of the ordinary in the address: %s, %s', async (field, choice, changes) => {
    const { user, change } = await bar({ search: { span: 3, view: 'list' } });
    await user.selectOptions(screen.getByLabelText(field), choice);
    expect(change).toHaveBeenCalledWith(changes);
  });
});

describe('what is wrong with them', () => {
  it('opens what is broken, promises first, each leading to its visit or its day', async () => {
    const late = [finding(1), finding(1, 'skill', { sentence: 'Lifts 3 needed' })];
    const tired = finding(null, 'break', { technician_id: 2, sentence: 'No room for the break' });
    const { user, change } = await bar({
      board: board([visit(1, { lamp: 'broken' }), visit(2)], undefined, [tired, ...late]),
    });
    expect(screen.queryByRole('button', { name: /tight/ })).toBeNull();
    const open = async (row: number) => {
      await user.click(screen.getByRole('button', { name: /3 broken/ }));
      const rows = within(screen.getByRole('dialog', { name: '3 broken' })).getAllByRole('listitem');
      expect(rows).toHaveLength(2);
      const text = rows[row]!.textContent;
      await user.click(within(rows[row]!).getByRole('button'));
      return text;
    };
    expect(await open(0)).toMatch(/2 h after the promise.*Lifts 3 needed/);
    expect(change).toHaveBeenLastCalledWith(expect.objectContaining({ visit: 1 }));
    expect(await open(1)).toMatch(/^Ivor Larkin.*No room for the break/);
    expect(change).toHaveBeenLastCalledWith(expect.objectContaining({ person: 2 }));
  });

  it('counts visits, the limits that are broken, and the tight promises', async () => {
    await bar({
      board: board([visit(1, { lamp: 'broken' }), visit(2, { lamp: 'watch' }), visit(3)], undefined, [
        finding(1),
      ]),
    });
    expect(screen.getByRole('status')).toHaveTextContent(/^3 visits.*1 broken.*1 tight$/);
  });

  it('says when something newer is on its way', async () => {
    await bar({ stale: true });
    expect(screen.getByRole('status')).toHaveTextContent('fetching…');
  });
});

describe('what can be done with all of them', () => {
  it('names what would be undone and done again', async () => {
    const { user, onUndo, onRedo } = await bar({ undo: 'W-1 moved to 14:00', redo: 'W-2 locked' });
    const undo = await screen.findByTitle('Undo: W-1 moved to 14:00 (Ctrl Z)', { collapseWhitespace: true });
    await user.click(undo);
    await user.click(screen.getByRole('button', { name: 'Redo' }));
    expect(onUndo).toHaveBeenCalledTimes(1);
    expect(onRedo).toHaveBeenCalledTimes(1);
  });

  it('offers nothing to undo when there is nothing', async () => {
    await bar();
    expect(screen.getByRole('button', { name: 'Undo' })).toBeDisabled();
    expect(screen.getByTitle('Nothing to do again')).toBeDisabled();
  });

  it('opens the planner in place of whatever stands beside the board', async () => {
    const { user, change } = await bar();
    await user.click(screen.getByRole('button', { name: 'Planner' }));
    expect(change).toHaveBeenCalledWith({ run: 0, visit: undefined, gap: undefined, person: undefined });
  });

  it('only looks, for whoever may not plan', async () => {
    const { user } = await bar({ canPlan: false });
    for (const name of ['Planner', 'Undo', 'Redo']) expect(screen.queryByRole('button', { name })).toBeNull();
    await user.click(screen.getByRole('button', { name: 'The whole day' }));
    const items = screen.getAllByRole('menuitem').map((item) => item.textContent);
    expect(items).toEqual(['Print all route sheets', 'Print all work orders']);
  });

  it('opens the legend', async () => {
    const { user, onLegend } = await bar();
    await user.click(screen.getByRole('button', { name: 'Legend' }));
    expect(onLegend).toHaveBeenCalledTimes(1);
  });

  it.each([
    ['Lock everything that is placed', true],
    ['Unlock everything', false],
  ])('%s on the days shown', async (words, pinned) => {
    const { user } = await bar();
    await user.click(screen.getByRole('button', { name: 'The whole day' }));
    await user.click(screen.getByRole('menuitem', { name: words }));
    await vi.waitFor(() => expect(askedOf('POST /api/v1/board/lock-days')).toHaveLength(1));
    expect(askedOf('POST /api/v1/board/lock-days')[0]!.body).toMatchObject({ day: TODAY, days: 1, pinned });
  });

  it('prints all route sheets', async () => {
    const open = vi.spyOn(window, 'open').mockReturnValue(null);
    const { user } = await bar();
    await user.click(screen.getByRole('button', { name: 'The whole day' }));
    await user.click(screen.getByRole('menuitem', { name: 'Print all route sheets' }));
    expect(open).toHaveBeenCalledWith('/api/v1/board/route-sheet?day=2026-11-27', '_blank');
    open.mockRestore();
  });

  it('has all work orders printed, says how far it is, and opens them', async () => {
    const open = vi.spyOn(window, 'open').mockReturnValue(null);
    const { user } = await bar();
    await user.click(screen.getByRole('button', { name: 'The whole day' }));
    await user.click(screen.getByRole('menuitem', { name: 'Print all work orders' }));
    expect(await screen.findByText('Printing 40 work orders: 25 %')).toBeVisible();
    await user.click(await screen.findByRole('button', { name: 'Open' }));
    expect(askedOf('POST /api/v1/printouts')[0]!.body).toEqual({ day: TODAY });
    expect(open).toHaveBeenCalledWith('/api/v1/printouts/7/pdf', '_blank');
    open.mockRestore();
  });

  it('opens the crews', async () => {
    const { user, onCrews } = await bar();
    await user.click(screen.getByRole('button', { name: 'The whole day' }));
    await user.click(screen.getByRole('menuitem', { name: 'Crews…' }));
    expect(onCrews).toHaveBeenCalledTimes(1);
  });
});

describe('how the board is drawn', () => {
  const menu = async (search: BoardSearch) => {
    const drawn = await bar({ board: board([], [INES]), search });
    await drawn.user.click(screen.getByRole('button', { name: 'Drawing' }));
    return drawn;
  };

  it.each([
    ['Columns', '15 minutes', { column: 15 }],
    ['Columns', '4 h', { column: 240 }],
    ['Technicians', 'By depot', { group: 'depot' }],
    ['Beside a name', 'hours, skills and areas', { heads: 'wide' }],
    ['Sorted by', 'Most free time', { sort: 'free' }],
    ['Written on a visit', 'Job and site', { label: 'job_site' }],
    ['Hue of a visit', 'Worth', { hue: 'worth' }],
  ])('%s: %s', async (label, words, changes) => {
    const { user, change } = await menu({});
    await user.selectOptions(screen.getByLabelText(label), words);
    expect(change).toHaveBeenCalledWith(changes);
  });

  it.each([
    ['Columns', 'fit the screen', { column: undefined }],
    ['Technicians', 'Together', { group: undefined }],
    ['Beside a name', 'as the screen allows', { heads: undefined }],
    ['Sorted by', 'Name', { sort: undefined }],
    ['Written on a visit', 'Site', { label: undefined }],
    ['Hue of a visit', 'Nothing', { hue: undefined }],
  ])('back to the ordinary: %s, %s', async (label, words, changes) => {
    const { user, change } = await menu({
      column: 30,
      group: 'crew',
      heads: 'narrow',
      sort: 'driving',
      label: 'number',
      hue: 'area',
    });
    await user.selectOptions(screen.getByLabelText(label), words);
    expect(change).toHaveBeenCalledWith(changes);
  });
});

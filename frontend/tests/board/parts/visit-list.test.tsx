import { screen, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { useState } from 'react';
import { between, listed } from '@/features/board/list/listed';
import { VisitList } from '@/features/board/list/VisitList';
import { listSearch, type ListSearch } from '@/features/board/search';
import type { BoardVisit } from '@/features/board/model';
import { at, draw } from '../../drawn';
import { serve } from '../../server';
import { board, finding, visit } from '../worlds';

const VISITS = [
  visit(2, {
    start: at(13),
    expected_start: at(13),
    site: 'Abbey School',
    promise: { start: at(13), end: at(15) },
  }),
  visit(10, { technician_id: 2, site: 'Guild Hall', state: 'done' }),
  visit(3, { start: at(15), expected_start: at(15), site: 'Mill', mates: [2] }),
];
const BOARD = board(VISITS, undefined, [finding(2), finding(2, 'skill', { sentence: 'Lifts 3 needed' })]);
const ids = (search: ListSearch) => listed(BOARD, search).map((row) => row.visit.id);

describe('which visits are listed', () => {
  it.each<[ListSearch, number[]]>([
    [{}, [10, 2, 3]],
    [{ by: 'number' }, [2, 3, 10]],
    [{ by: 'number', down: true }, [10, 3, 2]],
    [{ by: 'site' }, [2, 10, 3]],
    [{ by: 'promise' }, [2, 10, 3]],
    [{ by: 'broken' }, [2, 10, 3]],
    [{ by: 'technician' }, [2, 3, 10]],
  ])('sorted by %j', (search, expected) => expect(ids(search)).toEqual(expected));

  it.each<[ListSearch, number[]]>([
    [{ text: 'hall' }, [10]],
    [{ text: 'ABBEY  lifts' }, [2]],
    [{ state: 'done' }, [10]],
    [{ who: 2 }, [10, 3]],
    [{ broken: true }, [2]],
    [{ text: 'nowhere' }, []],
  ])('filtered by %j', (search, expected) => expect(ids(search)).toEqual(expected));

  it('takes what lies between two rows, whichever was first', () => {
    const rows = listed(BOARD, {});
    expect(between(rows, 10, 3)).toEqual([10, 2, 3]);
    expect(between(rows, 3, 2)).toEqual([2, 3]);
    expect(between(rows, null, 2)).toEqual([2]);
    expect(between(rows, 99, 2)).toEqual([2]);
  });

  it('reads its filters from an address, and drops nonsense', () => {
    expect(listSearch.parse({ by: 'length', state: 'gone', who: 'x', text: 'a' })).toEqual({ text: 'a' });
  });
});

describe('the list of visits', () => {
  const show = async (visits: BoardVisit[] = VISITS) => {
    serve({});
    const on = { onVisit: vi.fn(), onChoose: vi.fn() };
    const shown = visits === VISITS ? BOARD : board(visits);
    function Listed() {
      const [search, setSearch] = useState<ListSearch>({});
      return (
        <div style={{ height: 600 }}>
          <VisitList
            board={shown}
            search={search}
            change={(changes) => setSearch((old) => ({ ...old, ...changes }))}
            selectedId={2}
            chosen={new Set([10])}
            {...on}
          />
        </div>
      );
    }
    return { ...(await draw(<Listed />)), ...on };
  };
  const rows = async () => (await screen.findAllByRole('row')).slice(1);

  it('is in the order in which they begin, and says what is broken', async () => {
    await show();
    const shown = await rows();
    expect(shown[0]).toHaveTextContent(/11:00W-10Ivor Larkin/);
    expect(shown[1]).toHaveTextContent(/13:00W-2.*2 h after the promise.*Lifts 3 needed/);
    expect(screen.getByLabelText('Choose W-10')).toBeChecked();
  });

  it('is sorted by a column, and the other way round', async () => {
    const { user } = await show();
    const head = await screen.findByRole('button', { name: /^Site/ });
    await user.click(head);
    expect((await rows())[0]).toHaveTextContent('Abbey School');
    expect(screen.getByRole('columnheader', { name: /Site/ })).toHaveAttribute('aria-sort', 'ascending');
    await user.click(head);
    expect((await rows())[0]).toHaveTextContent('Mill');
    expect(screen.getByRole('columnheader', { name: /Site/ })).toHaveAttribute('aria-sort', 'descending');
  });

  it('is filtered, says how many are left, and shows all again', async () => {
    const { user } = await show();
    const filters = within(await screen.findByRole('search', { name: 'Filter the list' }));
    await user.click(filters.getByLabelText('Only broken (2 at 1 visit)'));
    expect(filters.getByRole('status')).toHaveTextContent('1 of 3 visits');
    expect(await rows()).toHaveLength(1);
    await user.type(filters.getByLabelText('Words in the list'), 'nowhere');
    expect(screen.getByText('No visit on these days matches the filter.')).toBeVisible();
    await user.click(filters.getByRole('button', { name: 'Show all' }));
    expect(await rows()).toHaveLength(3);
  });

  it('opens and chooses, one, a range, or all that are listed', async () => {
    const { user, onVisit, onChoose } = await show();
    await user.click(await screen.findByRole('button', { name: 'W-2' }));
    expect(onVisit).toHaveBeenCalledWith(2);
    await user.click(screen.getByLabelText('Choose W-10'));
    expect(onChoose).toHaveBeenLastCalledWith([10], false);
    await user.keyboard('{Shift>}');
    await user.click(screen.getByLabelText('Choose W-3'));
    await user.keyboard('{/Shift}');
    expect(onChoose).toHaveBeenLastCalledWith([10, 2, 3], true);
    await user.click(screen.getByLabelText('Choose all that are listed'));
    expect(onChoose).toHaveBeenLastCalledWith([10, 2, 3], true);
  });

  it('says so when there is none', async () => {
    await show([]);
    expect(await screen.findByText('No visit on these days.')).toBeVisible();
  });
});

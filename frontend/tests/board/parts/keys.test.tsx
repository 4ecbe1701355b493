import { fireEvent, render } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { moveFocus, visitsWithin } from '@/features/board/lanes/focus';
import { useBoardShortcuts, type Shortcuts } from '@/features/board/lanes/useBoardShortcuts';

const shortcuts = () => ({
  onDay: vi.fn<(by: number) => void>(),
  onUndo: vi.fn<() => void>(),
  onRedo: vi.fn<() => void>(),
  onLegend: vi.fn<() => void>(),
  onGap: vi.fn<(by: number) => void>(),
  onNext: vi.fn<() => void>(),
  onOpenings: vi.fn<() => void>(),
  onClose: vi.fn<() => void>(),
});

function Board(props: Shortcuts) {
  useBoardShortcuts(props);
  return (
    <>
      <input id="backlog-search" aria-label="Search" />
      <div role="dialog">
        <button type="button">In a dialog</button>
      </div>
    </>
  );
}

describe('the keys of the board', () => {
  const board = () => {
    const on = shortcuts();
    const { getByLabelText, getByText } = render(<Board {...on} />);
    const called = () =>
      Object.entries(on).flatMap(([name, deed]) => deed.mock.calls.map((call) => [name, ...call]));
    return { called, search: getByLabelText('Search'), dialog: getByText('In a dialog') };
  };

  it.each([
    [{ key: 't' }, ['onDay', 0]],
    [{ key: '[' }, ['onDay', -1]],
    [{ key: ']' }, ['onDay', 1]],
    [{ key: 'g' }, ['onGap', 1]],
    [{ key: 'G', shiftKey: true }, ['onGap', -1]],
    [{ key: 'n' }, ['onNext']],
    [{ key: 'o' }, ['onOpenings']],
    [{ key: '?' }, ['onLegend']],
    [{ key: 'Escape' }, ['onClose']],
    [{ key: 'z', ctrlKey: true }, ['onUndo']],
    [{ key: 'Z', ctrlKey: true, shiftKey: true }, ['onRedo']],
    [{ key: 'y', ctrlKey: true }, ['onRedo']],
  ])('%o', (key, deed) => {
    const { called } = board();
    fireEvent.keyDown(document.body, key);
    expect(called()).toEqual([deed]);
  });

  it('leads to the search of the backlog', () => {
    const { search } = board();
    fireEvent.keyDown(document.body, { key: '/' });
    expect(search).toHaveFocus();
  });

  it.each([{ key: 'x' }, { key: 'o', altKey: true }, { key: 't', ctrlKey: true }])(
    'leaves %o alone',
    (key) => {
      const { called } = board();
      expect(fireEvent.keyDown(document.body, key)).toBe(true);
      expect(called()).toEqual([]);
    },
  );

  it('takes nothing of what somebody types', () => {
    const { called, search } = board();
    for (const key of ['t', 'o', '?', '/']) fireEvent.keyDown(search, { key });
    fireEvent.keyDown(search, { key: 'z', ctrlKey: true });
    expect(called()).toEqual([]);
  });

  it('leaves a dialog its keys: Escape closes it, not what stands behind it', () => {
    const { called, dialog } = board();
    for (const key of ['Escape', 'n']) fireEvent.keyDown(dialog, { key });
    expect(called()).toEqual([]);
  });

  it('does nothing about a key that something else has taken', () => {
    const { called, search } = board();
    search.addEventListener('keydown', (event) => event.preventDefault());
    fireEvent.keyDown(search, { key: 'k', ctrlKey: true });
    expect(called()).toEqual([]);
  });
});

/** Two lines with two visits each; and one that waits, outside of any line. */
const PLACES: Record<number, [number, number]> = {
  1: [100, 0],
  2: [300, 0],
  3: [120, 46],
  4: [320, 46],
  5: [700, 200],
};

function lay() {
  const lane = (ids: number[]) => ids.map((id) => `<button data-visit="${id}"></button>`).join('');
  document.body.innerHTML = `<div data-lane="1">${lane([1, 2])}</div><div data-lane="2">${lane([3, 4])}</div>${lane([5])}`;
  const found = new Map<number, HTMLElement>();
  for (const element of document.querySelectorAll<HTMLElement>('[data-visit]')) {
    const id = Number(element.dataset.visit);
    const [x, y] = PLACES[id]!;
    element.getBoundingClientRect = () => new DOMRect(x, y, 80, 24);
    element.addEventListener('keydown', (event) => moveFocus(event as never));
    found.set(id, element);
  }
  return found;
}

describe('walking from visit to visit', () => {
  afterEach(() => {
    document.body.innerHTML = '';
  });

  it.each([
    [1, 'ArrowRight', 2],
    [2, 'ArrowLeft', 1],
    [2, 'ArrowRight', 3],
    [1, 'ArrowDown', 3],
    [2, 'ArrowDown', 4],
    [4, 'ArrowUp', 2],
    [3, 'ArrowUp', 1],
    [4, 'ArrowDown', 5],
  ])('from %i with %s to %i', (from, key, to) => {
    const all = lay();
    all.get(from)!.focus();
    fireEvent.keyDown(all.get(from)!, { key });
    expect(all.get(to)).toHaveFocus();
  });

  it.each([
    [1, 'ArrowUp'],
    [1, 'ArrowLeft'],
    [5, 'ArrowDown'],
    [3, 'x'],
  ])('stays at %i with %s: nothing is there', (from, key) => {
    const all = lay();
    all.get(from)!.focus();
    fireEvent.keyDown(all.get(from)!, { key });
    expect(all.get(from)).toHaveFocus();
  });
});

describe('a frame drawn over the lanes', () => {
  afterEach(() => {
    document.body.innerHTML = '';
  });

  it.each([
    ['nothing', { x: 0, y: 100 }, { x: 50, y: 150 }, []],
    ['a line', { x: 90, y: 5 }, { x: 400, y: 10 }, [1, 2]],
    ['a stretch of two lines', { x: 90, y: 5 }, { x: 210, y: 60 }, [1, 3]],
    ['the same, drawn backwards', { x: 210, y: 60 }, { x: 90, y: 5 }, [1, 3]],
    ['all of the lines, but not what waits', { x: 0, y: 0 }, { x: 900, y: 900 }, [1, 2, 3, 4]],
  ])('holds %s', (_, from, to, ids) => {
    lay();
    expect(visitsWithin(from, to)).toEqual(ids);
  });
});
